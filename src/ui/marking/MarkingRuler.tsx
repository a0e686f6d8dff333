import { longestRuler, type QuestionSign } from '@/core/attempt/paperRuler';
import { counted } from '@/core/base/words';
import { PaperRuler } from '../kit/PaperRuler';
import { TextButton } from '../kit/TextButton';
import type { MarkingWalk } from './useMarkingWalk';

/** So many answers with something unsaved are named one by one. */
const mostNamed = 12;

const signSaid = (sign: QuestionSign) =>
  `Answer ${sign.number}: ${sign.awaitsMark ? 'waits for a mark' : 'marked'}${sign.current ? ', here now' : ''}`;

/** All answers at a glance, or in numbers where they are too many. */
export function MarkingRuler({ walk, by }: { walk: MarkingWalk; by: 'question' | 'paper' }) {
  const { heads, signs, show, current, waiting, marking } = walk;
  const typed = heads.flatMap((head, i) => (marking.typed.includes(head.slotId) && head !== current ? [i] : []));
  return (
    <div className="mb-4">
      {heads.length <= longestRuler ? (
        <PaperRuler
          signs={signs}
          onPick={(number) => show(number - 1)}
          label="Answers in your order"
          numbered={by === 'question'}
          say={signSaid}
        />
      ) : (
        <p className="flex items-center gap-3 text-sm text-ink-2 tabular-nums">
          <span className="h-1.5 w-80 bg-plum-wash">
            <span
              className="block h-full bg-plum"
              style={{ width: `${(100 * (heads.length - waiting)) / heads.length}%` }}
            />
          </span>
          Answer {current.number} of {heads.length}, {counted(waiting, 'waits', 'wait')}
        </p>
      )}
      {marking.waiting.length > 0 && (
        <p role="status" className="mt-1 text-sm text-saffron">
          No connection: {counted(marking.waiting.length, 'mark waits', 'marks wait')} to be saved. They are kept in
          this browser, and sent by themselves.
        </p>
      )}
      {typed.length > 0 && (
        <p className="mt-1 text-sm text-saffron">
          Typed and not saved:{' '}
          {typed.slice(0, mostNamed).map((i) => (
            <TextButton key={heads[i]?.slotId} className="mr-2" onClick={() => show(i)}>
              answer {heads[i]?.number}
            </TextButton>
          ))}
          {typed.length > mostNamed && `and ${typed.length - mostNamed} more`}
        </p>
      )}
    </div>
  );
}
