'use client';
import { useState } from 'react';
import { counted } from '@/core/base/words';
import type { Matching } from '@/server/round/people';
import { Button } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { Done } from '../kit/Done';
import { SelectField } from '../kit/Field';
import { Empty, PageFrame, PageTitle, Sheet } from '../kit/Page';
import { Problems } from '../kit/Problems';
import { usePerform } from '../kit/usePerform';

type Props = {
  back: string;
  matching: Matching;
  commands: Commands<'matchNames' | 'undoChange', 'courseId' | 'roundId'>;
};

/** Matches names that were typed to the roster: what is proposed is taken over in one step. */
export function NamesPage({ back, matching, commands }: Props) {
  const { perform, problems, busy } = usePerform();
  const [chosen, setChosen] = useState<Record<string, string>>({});
  const [done, setDone] = useState<{ names: number; undo: number } | null>(null);
  const whom = (guestId: string, proposed: string | null) => chosen[guestId] ?? proposed ?? '';
  const pairs = matching.proposals.flatMap(({ guestId, proposed }) => {
    const userId = whom(guestId, proposed);
    return userId === '' ? [] : [{ guestId, userId }];
  });
  const twice = pairs.filter((one) => pairs.some((other) => other !== one && other.userId === one.userId));
  const isTwice = new Set(twice.map((one) => one.guestId));
  return (
    <PageFrame width="sheet">
      <PageTitle
        title="Names and the roster"
        back={{ href: back, name: 'The round' }}
        note="What was answered under a typed name counts once it is known whose it is."
      />
      {done && (
        <Done
          className="mb-3"
          onUndo={() =>
            void perform(
              () => commands.undoChange(done.undo),
              () => setDone(null),
            )
          }
        >
          {counted(done.names, 'name is', 'names are')} matched.
        </Done>
      )}
      <Problems problems={problems} className="mb-3" />
      {matching.proposals.length === 0 ? (
        <Empty title="Every name is matched">There is nothing left to be said here.</Empty>
      ) : (
        <Sheet label="Names that were typed" className="px-5 py-4">
          <table className="w-full">
            <thead>
              <tr className="border-b border-line text-left text-sm text-ink-2">
                <th className="py-1 font-normal">Typed</th>
                <th className="py-1 font-normal">On the roster</th>
              </tr>
            </thead>
            <tbody>
              {matching.proposals.map(({ guestId, typed, candidates, proposed }) => {
                const others = matching.roster.filter((one) => !candidates.some((it) => it.userId === one.userId));
                return (
                  <tr key={guestId} className="border-b border-line">
                    <td className="py-1.5 pr-4 break-words">{typed}</td>
                    <td className="py-1.5">
                      <SelectField
                        label={`Whose name ${typed} is`}
                        quiet
                        value={whom(guestId, proposed)}
                        onChange={(event) => setChosen({ ...chosen, [guestId]: event.target.value })}
                        problem={isTwice.has(guestId) ? 'Chosen twice.' : null}
                      >
                        <option value="">nobody on the roster</option>
                        {candidates.map((one) => (
                          <option key={one.userId} value={one.userId}>
                            {one.name}
                          </option>
                        ))}
                        {others.length > 0 && (
                          <optgroup label="Others">
                            {others.map((one) => (
                              <option key={one.userId} value={one.userId}>
                                {one.name}
                              </option>
                            ))}
                          </optgroup>
                        )}
                      </SelectField>
                    </td>
                  </tr>
                );
              })}
            </tbody>
          </table>
          <Button
            look="main"
            className="mt-4"
            busy={busy}
            whyNot={
              pairs.length === 0
                ? 'Choose whose names they are.'
                : twice.length
                  ? 'Two names cannot be one person.'
                  : null
            }
            onClick={() =>
              void perform(
                () => commands.matchNames(pairs),
                ({ undo }) => setDone({ names: pairs.length, undo }),
              )
            }
          >
            Match {counted(pairs.length, 'name')}
          </Button>
        </Sheet>
      )}
      {matching.matched.length > 0 && (
        <Sheet label="Matched" className="mt-5 px-5 py-4">
          <h2 className="text-xl">Matched</h2>
          <ul>
            {matching.matched.map((one) => (
              <li key={one.guestId}>
                {one.typed} <span className="text-ink-2">is</span> {one.name}
              </li>
            ))}
          </ul>
        </Sheet>
      )}
    </PageFrame>
  );
}
