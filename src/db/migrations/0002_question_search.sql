-- The words of questions for search. Written by hand, because the schema language has no full-text tables; its rows are
-- kept by the use-cases, numbered by question_words.
CREATE VIRTUAL TABLE `question_search` USING fts5(name, words, tokenize = 'unicode61 remove_diacritics 2', prefix = '2 3');--> statement-breakpoint
INSERT INTO `question_words` (`question_id`) SELECT `id` FROM `question`;--> statement-breakpoint
INSERT INTO `question_search` (rowid, name, words)
SELECT w.`row`, q.`short_name`, v.`plain_text`
FROM `question_words` w
JOIN `question` q ON q.`id` = w.`question_id`
JOIN `question_version` v ON v.`id` = q.`current_version_id`;
