UPDATE question_search SET words = words || coalesce((
  SELECT ' ' || group_concat(part.value, ' ')
  FROM question_words
  JOIN question ON question.id = question_words.question_id
  JOIN question_version ON question_version.id = question.current_version_id
  JOIN json_tree(question_version.content) AS part
  WHERE question_words.row = question_search.rowid
    AND part.type = 'text'
    AND part.key IN ('text', 'value')
    AND (part.path LIKE '$%.accepted[%]' OR part.path LIKE '$.modelAnswer%')
), '');
