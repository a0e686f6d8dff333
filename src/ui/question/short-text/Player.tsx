import { longestShortText, type ShortTextResponse, type ShortTextView } from '@/core/question/types/short-text/student';
import { TextField } from '../../kit/Field';
import type { PlayerProps } from '../playing';

/** One line for a few words. */
export const ShortTextPlayer = ({ response, onRespond, disabled }: PlayerProps<ShortTextView, ShortTextResponse>) => (
  <TextField
    label="Your answer, a few words"
    className="max-w-xl"
    autoComplete="off"
    spellCheck={false}
    maxLength={longestShortText}
    disabled={disabled}
    value={response?.text ?? ''}
    onChange={(event) => onRespond(event.target.value === '' ? undefined : { text: event.target.value })}
  />
);
