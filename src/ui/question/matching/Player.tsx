import { richText } from '@/core/base/rich';
import type { MatchingResponse, MatchingView } from '@/core/question/types/matching/student';
import { RichText } from '../../kit/RichText';
import type { PlayerProps } from '../playing';

/** Each prompt with a list of all options beside it; how often an option has been used stands in the list. */
export function MatchingPlayer({ view, response, onRespond, disabled }: PlayerProps<MatchingView, MatchingResponse>) {
  const put = response?.pairs ?? {};
  const used = (key: string) => Object.values(put).filter((one) => one === key).length;
  const set = (prompt: string, option: string) => {
    const next = { ...put, [prompt]: option };
    if (option === '') delete next[prompt];
    onRespond(Object.keys(next).length ? { pairs: next } : undefined);
  };
  return (
    <ul className="border-y border-line">
      {view.prompts.map((prompt, i) => (
        <li
          key={prompt.key}
          className="grid items-center gap-x-4 gap-y-1 border-b border-line px-2 py-2.5 last:border-b-0 sm:grid-cols-[1fr_minmax(200px,1fr)]"
        >
          <RichText rich={prompt.content} className="min-w-0" />
          <select
            aria-label={`What belongs to ${richText(prompt.content) || i + 1}`}
            disabled={disabled}
            value={put[prompt.key] ?? ''}
            onChange={(event) => set(prompt.key, event.target.value)}
            className="min-h-10 w-full min-w-0 rounded-sm border border-edge bg-sheet px-2"
          >
            <option value="">choose …</option>
            {view.options.map((option) => (
              <option key={option.key} value={option.key}>
                {option.text}
                {used(option.key) > 0 && put[prompt.key] !== option.key ? ' (used)' : ''}
              </option>
            ))}
          </select>
        </li>
      ))}
    </ul>
  );
}
