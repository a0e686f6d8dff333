'use client';
import { useState } from 'react';
import { Sheet } from '../../kit/Page';
import { GiveKey } from './GiveKey';
import type { KeySheetAccess } from './KeyFromSheet';
import { LabelItems } from './LabelItems';
import { MakeRoom } from './MakeRoom';
import { SetItems } from './SetItems';
import type { ToolProps } from './useTool';

const tools = { set: 'Set items', keys: 'Give the key', label: 'Label them', room: 'Put in or take out' } as const;
type Tool = keyof typeof tools;

/** What is done to many items at once: one sentence for each, with its pieces to be filled in. */
export function ItemTools({ items, doToMany, keySheets }: ToolProps & { keySheets: KeySheetAccess | null }) {
  const [tool, setTool] = useState<Tool>('set');
  return (
    <Sheet label="Many items at once" className="px-4 py-3">
      <fieldset className="mb-3 flex flex-wrap gap-x-5 gap-y-1">
        <legend className="sr-only">What to do</legend>
        {(Object.keys(tools) as Tool[]).map((one) => (
          <label key={one} className={`flex items-center gap-1.5 ${tool === one ? 'font-medium' : 'text-ink-2'}`}>
            <input
              type="radio"
              name="tool"
              className="accent-prussian"
              checked={tool === one}
              onChange={() => setTool(one)}
            />
            {tools[one]}
          </label>
        ))}
      </fieldset>
      {tool === 'set' && <SetItems items={items} doToMany={doToMany} />}
      {tool === 'keys' && <GiveKey items={items} doToMany={doToMany} keySheets={keySheets} />}
      {tool === 'label' && <LabelItems items={items} doToMany={doToMany} />}
      {tool === 'room' && <MakeRoom items={items} doToMany={doToMany} />}
    </Sheet>
  );
}
