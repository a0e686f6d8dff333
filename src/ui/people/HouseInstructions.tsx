'use client';
import { useState } from 'react';
import type { Rich } from '@/core/base/rich';
import { Button } from '../kit/Button';
import type { Commands } from '../kit/commands';
import { Sheet } from '../kit/Page';
import { Problems } from '../kit/Problems';
import { usePerform } from '../kit/usePerform';
import { RichEditor } from '../question/rich/RichEditor';

/** What the school tells every student before every exam, of whatever course. */
export function HouseInstructions({
  begun,
  setHouseInstructions,
}: {
  begun: Rich;
  setHouseInstructions: Commands<'setHouseInstructions', 'courseId'>['setHouseInstructions'];
}) {
  const { perform, problems, busy } = usePerform();
  const [value, setValue] = useState(begun);
  const [state, setState] = useState<'as stored' | 'changed' | 'saved'>('as stored');
  return (
    <Sheet label="What the school tells students" className="mt-6 space-y-3 px-6 py-5">
      <h2 className="text-xl">What the school tells students</h2>
      <p className="text-ink-2">Stands before the instructions of every exam of every course, for all students.</p>
      <RichEditor
        low
        label="Instructions of the school"
        value={value}
        onChange={(next) => {
          setValue(next);
          setState('changed');
        }}
      />
      <Problems problems={problems} />
      <div className="flex items-center gap-3">
        <Button
          disabled={busy}
          whyNot={state === 'changed' ? null : 'Nothing has been changed.'}
          onClick={() =>
            void perform(
              () => setHouseInstructions(value),
              () => setState('saved'),
            )
          }
        >
          Save what the school tells
        </Button>
        {state === 'saved' && (
          <span role="status" className="text-pine">
            Saved
          </span>
        )}
      </div>
    </Sheet>
  );
}
