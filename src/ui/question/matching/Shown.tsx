import type { MatchingResponse, MatchingView } from '@/core/question/types/matching/student';
import { RichText } from '../../kit/RichText';
import type { ShownProps } from '../playing';

/** Each prompt with what was put to it, and all that could be. */
export const MatchingShown = ({ view, response }: ShownProps<MatchingView, MatchingResponse>) => (
  <>
    <ul className="border-y border-line">
      {view.prompts.map((prompt) => {
        const put = view.options.find((option) => option.key === response?.pairs[prompt.key]);
        return (
          <li key={prompt.key} className="grid grid-cols-2 gap-3 border-b border-line px-2 py-1.5 last:border-b-0">
            <RichText rich={prompt.content} className="min-w-0" />
            {put ? (
              <span className="bg-prussian-wash px-1.5">{put.text}</span>
            ) : (
              <span className="text-ink-2">{response ? 'nothing put' : ''}</span>
            )}
          </li>
        );
      })}
    </ul>
    <p className="mt-1 px-2 text-sm text-ink-2">To choose from: {view.options.map((one) => one.text).join('; ')}</p>
  </>
);
