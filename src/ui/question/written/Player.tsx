import { countWords, longestWritten, type WrittenText, type WrittenView } from '@/core/question/types/written/student';
import { TextArea } from '../../kit/Field';

type Props = {
  view: WrittenView;
  response: WrittenText | undefined;
  onRespond: (response: WrittenText | undefined) => void;
  disabled?: boolean;
};

/** Room for an answer in one's own words, with a live count. */
export function WrittenPlayer({ view, response, onRespond, disabled }: Props) {
  const text = response?.text ?? '';
  return (
    <TextArea
      label="Your answer"
      rows={9}
      maxLength={longestWritten}
      disabled={disabled}
      value={text}
      onChange={(event) => onRespond(event.target.value === '' ? undefined : { text: event.target.value })}
      hint={wordSentence(countWords(text), view.words)}
    />
  );
}

function wordSentence(count: number, { least, most }: WrittenView['words']): string {
  const said = `${count} ${count === 1 ? 'word' : 'words'}`;
  if (least !== null && count < least) return `${said}; at least ${least} are asked for`;
  if (most !== null && count > most) return `${said}; at most ${most} are asked for`;
  if (least !== null && most !== null) return `${said}; between ${least} and ${most} are asked for`;
  return most !== null ? `${said} of at most ${most}` : said;
}
