import { FileLink } from '../kit/FileLink';
import { RichText } from '../kit/RichText';
import { takingOf } from '../question/players';
import { chooseSaid } from './chooseParts';
import { TakingQuestion } from './TakingQuestion';
import type { TakingPort } from './takingPort';
import type { Taking } from './useTaking';

/** The questions of the page that is shown, each with what stands above it: its part, its rule, its passage. */
export function PaperQuestions({ taking, port }: { taking: Taking; port: TakingPort }) {
  const { paper, slots, shown, answers, closed, ahead, notices, progress, change, attempt } = taking;
  if (!paper) return null;
  return shown.map((slot, i) => {
    const before = shown[i - 1];
    const rule = paper.choose[slot.partId];
    const passage = slot.passage && slot.passage !== before?.passage ? paper.passages[slot.passage] : undefined;
    return (
      <div key={slot.slotId} className={i > 0 ? 'mt-5' : ''}>
        {before && before.partId !== slot.partId && <h2 className="mb-2 text-xl">{slot.partTitle}</h2>}
        {rule && before?.partId !== slot.partId && (
          <p className="mb-2 text-base">
            {chooseSaid(
              rule,
              progress.find((one) => one.partId === slot.partId),
            )}
          </p>
        )}
        {passage && (
          <details open className="mb-3 border border-line bg-sheet px-4 py-3 sm:px-6">
            <summary className="text-base font-medium">{passageSaid(slots, slot.passage)}</summary>
            <div className="mt-2 max-h-[45dvh] overflow-y-auto">
              <RichText rich={passage} />
            </div>
          </details>
        )}
        <TakingQuestion
          slot={slot}
          count={slots.length}
          answer={answers[slot.slotId]}
          heading={(element) => taking.noteHeading(slot.number, element)}
          closed={closed}
          ahead={ahead}
          zone={taking.timeZone}
          whyNot={() => taking.whyNot(slot)}
          mayComeBack={!paper.onwardOnly || shown.length > 1}
          files={port.files(slot.slotId, fileLink)}
          onOpen={async () => (await attempt?.show(slot.slotId)) ?? false}
          onRespond={(value, type) => change(slot.slotId, { value }, takingOf(type).sentAtOnce ? 0 : undefined)}
          onComeBack={(comeBack) => change(slot.slotId, { comeBack }, 0)}
          notices={notices}
          onCheck={async () => (await attempt?.check(slot.slotId)) ?? null}
          onAgain={async () => (await attempt?.again(slot.slotId)) ?? null}
          onReport={port.report && ((text) => port.report?.(slot.slotId, text) ?? Promise.resolve(null))}
        />
      </div>
    );
  });
}

/** How a file for an answer is looked at again. */
const fileLink = (id: string, name: string) => (
  <FileLink href={`/answer-files/${id}`} download>
    {name}
  </FileLink>
);

/** Which questions of the paper a passage belongs to. */
function passageSaid(slots: readonly { number: number; passage: string | null }[], id: string | null): string {
  const numbers = slots.filter((slot) => slot.passage === id).map((slot) => slot.number);
  if (numbers.length === 1) return `For question ${numbers[0]}`;
  return `For questions ${numbers.slice(0, -1).join(', ')} and ${numbers[numbers.length - 1]}`;
}
