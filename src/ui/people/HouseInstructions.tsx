'use client';
import { useState } from 'react';
import type { School } from '@/server/people/schoolInstructions';
import { Meanwhile } from '../keep/Meanwhile';
import { useSettings } from '../keep/useSettings';
import { Button } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { Sheet } from '../kit/Page';
import { Problems } from '../kit/Problems';
import { RichText } from '../kit/RichText';
import { Tick } from '../kit/Tick';
import { usePerform } from '../kit/usePerform';
import { RichEditor } from '../question/rich/RichEditor';

/** What the school tells every student before every exam, of whatever course. */
export function HouseInstructions({
  school,
  me,
  commands,
}: {
  school: School;
  me: string;
  commands: Commands<'setHouseInstructions' | 'setKeeper', 'courseId'>;
}) {
  const { perform, problems, busy } = usePerform();
  const written = useSettings('school-words', 'What the school tells students', school.instructions);
  const [isSaved, setSaved] = useState(false);
  return (
    <Sheet label="What the school tells students" className="mt-6 space-y-3 px-6 py-5">
      <h2 className="text-xl">What the school tells students</h2>
      <p className="text-ink-2">Stands before the instructions of every exam of every course, for all students.</p>
      {!school.keeps && (
        <>
          <RichText rich={school.instructions} />
          <p className="text-ink-2">
            Set by {school.keepers.join(', ') || 'nobody'}, who keeps what all courses share.
          </p>
        </>
      )}
      {school.keeps && (
        <>
          <RichEditor
            low
            label="Instructions of the school"
            value={written.entered}
            onChange={(next) => {
              written.change(next);
              setSaved(false);
            }}
          />
          <Meanwhile
            places={
              written.clashes.length ? [{ name: 'The words', theirs: <RichText rich={school.instructions} /> }] : []
            }
          />
          <Problems problems={problems} />
          <div className="flex items-center gap-3">
            <Button
              disabled={busy}
              whyNot={written.isUnfinished ? null : 'Nothing has been changed.'}
              onClick={() =>
                void perform(
                  () => commands.setHouseInstructions(written.entered, written.seen),
                  () => {
                    written.saved();
                    setSaved(true);
                  },
                )
              }
            >
              Save what the school tells
            </Button>
            <span role="status" className="text-sm text-ink-2">
              {written.isUnfinished ? 'Not saved yet; kept in this browser.' : isSaved && 'Saved.'}
            </span>
          </div>
          {school.colleagues.length > 1 && (
            <fieldset className="border-t border-line pt-2">
              <legend className="sr-only">Who keeps what all courses share</legend>
              <p className="text-ink-2">Who may set this, of those who teach here:</p>
              {school.colleagues.map((one) => (
                <Tick
                  key={one.userId}
                  on={one.keeps}
                  onChange={(keeps) => void perform(() => commands.setKeeper(one.userId, keeps))}
                >
                  {one.name}
                  {one.userId === me && ' (you)'}
                </Tick>
              ))}
            </fieldset>
          )}
        </>
      )}
    </Sheet>
  );
}
