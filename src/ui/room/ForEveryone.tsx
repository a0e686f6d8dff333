'use client';
import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react';
import { type ReactNode, useState } from 'react';
import { counted } from '@/core/base/words';
import { WordsForm } from '../keep/WordsForm';
import { Button } from '../kit/Button';
import { NumberField } from '../kit/NumberField';
import { numberIn } from '../kit/numberIn';
import { Problems, problemAt, problemsBesides } from '../kit/Problems';
import { usePerform } from '../kit/usePerform';
import type { RoomCommands } from './roomCommands';

type Props = {
  /** How many are writing now. */
  writing: number;
  commands: Pick<RoomCommands, 'addTime' | 'addNote'>;
  onDone: (said: string) => void;
};

/** What is done for the whole room: more time, a message, an incident. */
export function ForEveryone({ writing, commands, onDone }: Props) {
  return (
    <>
      <Panel name="Note an incident">
        {(close) => (
          <WordsForm
            label="What happened"
            act="Write it down"
            onSend={(text) => commands.addNote({ kind: 'incident', userId: null, text })}
            onSent={() => {
              onDone('Written down in the log.');
              close();
            }}
          />
        )}
      </Panel>
      <Panel name="Message to the room">
        {(close) => (
          <WordsForm
            label="What they are to read"
            hint="It stands above the paper of everyone who is writing, within seconds."
            act="Send"
            onSend={(text) => commands.addNote({ kind: 'message', userId: null, text })}
            onSent={() => {
              onDone('The room has been told.');
              close();
            }}
          />
        )}
      </Panel>
      <Panel name="More time for all" main>
        {(close) => (
          <MinutesFields
            hint={`${counted(writing, 'student is', 'students are')} writing. Their clocks follow within seconds.`}
            onGive={(minutes) => commands.addTime(null, minutes)}
            onGiven={(given, minutes) => {
              onDone(`${counted(given, 'student has', 'students have')} ${minutes} min more.`);
              close();
            }}
          />
        )}
      </Panel>
    </>
  );
}

function Panel({ name, main, children }: { name: string; main?: boolean; children: (close: () => void) => ReactNode }) {
  return (
    <Popover>
      <PopoverButton as={Button} {...(main ? { look: 'main' as const } : {})}>
        {name}
      </PopoverButton>
      <PopoverPanel
        anchor={{ to: 'bottom end', gap: 4 }}
        focus
        className="z-30 w-80 border border-edge bg-sheet p-4 shadow-md"
      >
        {({ close }) => <>{children(() => close())}</>}
      </PopoverPanel>
    </Popover>
  );
}

/** Minutes that are given to one, some or all. */
export function MinutesFields({
  hint,
  onGive,
  onGiven,
}: {
  hint?: string;
  onGive: (minutes: number) => ReturnType<RoomCommands['addTime']>;
  onGiven: (given: number, minutes: number) => void;
}) {
  const { perform, problems, busy } = usePerform();
  const [text, setText] = useState('5');
  return (
    <form
      className="space-y-2"
      onSubmit={(event) => {
        event.preventDefault();
        const minutes = numberIn(text);
        void perform(
          () => onGive(minutes),
          ({ given }) => onGiven(given, minutes),
        );
      }}
    >
      <NumberField
        label="More minutes"
        value={text}
        onChange={(event) => setText(event.target.value)}
        problem={problemAt(problems, 'minutes')}
        {...(hint ? { hint } : {})}
      />
      <Problems problems={problemsBesides(problems, ['minutes'])} />
      <Button type="submit" disabled={busy}>
        Give them
      </Button>
    </form>
  );
}
