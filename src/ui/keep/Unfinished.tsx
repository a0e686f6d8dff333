'use client';
import { type ReactNode, useEffect, useState } from 'react';
import { momentText } from '@/core/base/time';
import { counted } from '@/core/base/words';
import type { UnsavedSheet } from '@/server/bank/drafts';
import type { Commands } from '../kit/commands';
import { Decision } from '../kit/Decision';
import { Link } from '../kit/Link';
import { Sheet } from '../kit/Page';
import { Problems } from '../kit/Problems';
import { TextButton } from '../kit/TextButton';
import { usePerform } from '../kit/usePerform';
import type { Entry } from './journal';
import { useKeeping } from './KeepingFor';

/** Gives up a question's sheet on the server. */
export type GiveUpSheet = Commands<'giveUpDraft', never>;

type Props = {
  zone: string;
  /** The way to the course whose Desk this is. */
  base: string;
  /** What the server keeps of question sheets, whatever browser they were typed at. */
  sheets: readonly UnsavedSheet[];
  /** What stands there where nothing is unfinished. */
  otherwise?: ReactNode;
} & GiveUpSheet;

type Waiting = Pick<Entry, 'at' | 'title' | 'href'> & { object: string; isElsewhere: boolean };

const objectOf = ({ bankId, subject }: UnsavedSheet) => `question/${bankId}/${subject}`;

/** A sheet that this browser knows nothing of: typed at another one, or before this one was cleared. */
function fromServer(sheet: UnsavedSheet, base: string): Waiting {
  const { bankId, subject, savedAt, title } = sheet;
  const [, type] = /^new\/(.+)$/.exec(subject) ?? [];
  const href = `${base}/banks/${bankId}?${type ? `begin=${type}` : `question=${subject}`}`;
  return { object: objectOf(sheet), at: savedAt, title, href, isElsewhere: true };
}

/** The course, bank and subject of a question's sheet; null for anything else that was typed. */
function sheetOf({ object, href }: Waiting): [courseId: string, bankId: string, subject: string] | null {
  const [, bankId, subject] = /^question\/([^/]+)\/(.+)$/.exec(object) ?? [];
  const [, courseId] = /^\/c\/([^/?]+)/.exec(href) ?? [];
  return courseId && bankId && subject ? [courseId, bankId, subject] : null;
}

/** What its person began and has not saved, with one step back to each; nothing where all is. */
export function Unfinished({ zone, base, sheets, giveUpDraft, otherwise = null }: Props) {
  const journal = useKeeping()?.journal ?? null;
  const { perform, problems, busy } = usePerform();
  /** Null until this browser has been looked at. */
  const [here, setHere] = useState<Waiting[] | null>(null);
  const [asked, setAsked] = useState<Waiting | null>(null);
  useEffect(() => {
    const look = () => setHere((journal?.list() ?? []).map((entry) => ({ ...entry, isElsewhere: false })));
    look();
    // Another window may finish it, or begin something.
    window.addEventListener('storage', look);
    window.addEventListener('focus', look);
    return () => {
      window.removeEventListener('storage', look);
      window.removeEventListener('focus', look);
    };
  }, [journal]);
  if (here === null) return null;
  const known = new Set(here.map((one) => one.object));
  const elsewhere = sheets.filter((sheet) => !known.has(objectOf(sheet))).map((sheet) => fromServer(sheet, base));
  const waiting = [...here, ...elsewhere].sort((a, b) => b.at - a.at);
  const giveUp = (one: Waiting) => {
    const sheet = sheetOf(one);
    const forget = () => {
      journal?.forget(one.object);
      setHere(here.filter((other) => other.object !== one.object));
      setAsked(null);
    };
    // What the server keeps of it would be brought back the next time it is opened.
    if (sheet) void perform(() => giveUpDraft(...sheet), forget);
    else forget();
  };
  if (waiting.length === 0) return otherwise;
  return (
    <section aria-label="Unfinished">
      <h2 className="mb-1 text-lg text-saffron">{counted(waiting.length, 'thing')} unfinished</h2>
      <Sheet>
        <ul>
          {waiting.map((one) => (
            <li
              key={one.object}
              className="flex flex-wrap items-baseline gap-x-3 border-t border-line px-4 py-2 first:border-t-0"
            >
              <Link href={one.href} className="font-medium text-prussian underline">
                {one.title}
              </Link>
              <span className="mr-auto text-sm text-ink-2">
                typed {momentText(one.at, zone)} {one.isElsewhere ? 'in another browser' : 'in this browser'}, not saved
              </span>
              <TextButton onClick={() => setAsked(one)}>Give it up</TextButton>
            </li>
          ))}
        </ul>
      </Sheet>
      {asked && (
        <Decision
          title={`Give up what was typed into ${asked.title.replace(/^[A-Z]/, (letter) => letter.toLowerCase())}?`}
          act="Give it up"
          look="grave"
          busy={busy}
          onClose={() => setAsked(null)}
          onAct={() => giveUp(asked)}
        >
          <p>What was saved before stays as it is.</p>
          <Problems problems={problems} />
        </Decision>
      )}
    </section>
  );
}
