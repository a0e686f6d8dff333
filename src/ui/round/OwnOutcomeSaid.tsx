import type { OwnOutcome } from '@/server/round/device';

const said = {
  right: { text: 'Your answer is right.', ink: 'text-pine' },
  partly: { text: 'Your answer is partly right.', ink: 'text-saffron' },
  wrong: { text: 'Your answer is not right.', ink: 'text-brick' },
};

/** Whether one's own answer was right, and what is. */
export function OwnOutcomeSaid({ own }: { own: OwnOutcome }) {
  const judged = own.outcome ? said[own.outcome] : null;
  return (
    <div role="status" className="mt-4 border-l-2 border-line pl-3 text-lg">
      {own.given === '' ? (
        <p>You gave no answer.</p>
      ) : judged ? (
        <p className={`font-medium ${judged.ink}`}>{judged.text}</p>
      ) : (
        <p>Nobody has said yet what is right.</p>
      )}
      {own.right !== '' && own.outcome !== 'right' && <p>Right is: {own.right}</p>}
    </div>
  );
}
