'use client';
import { useRef, useState } from 'react';
import type { GridPerson, RoundHead, RoundNews } from '@/server/round/grid';
import { type Line, useStream } from '../kit/useStream';

/** Puts news over what is known: people about whom something is new are replaced, who has gone is taken out. */
export function withPeople(known: readonly GridPerson[], { people, gone, all }: RoundNews): GridPerson[] {
  if (all) return people;
  const fresh = new Map(people.map((one) => [one.userId, one]));
  const out = new Set(gone);
  const kept = known.filter((one) => !out.has(one.userId)).map((one) => fresh.get(one.userId) ?? one);
  const before = new Set(known.map((one) => one.userId));
  return [...kept, ...people.filter((one) => !before.has(one.userId))];
}

/** A round as it is now, live. */
export function useRound(address: string, begun: RoundNews): { head: RoundHead; people: GridPerson[]; line: Line } {
  const [head, setHead] = useState(begun.head);
  const [people, setPeople] = useState<GridPerson[]>(begun.people);
  const newest = useRef(begun.head.now);
  const line = useStream<RoundNews>(address, (news) => {
    if (news.head.now >= newest.current) {
      newest.current = news.head.now;
      setHead(news.head);
    }
    setPeople((before) => withPeople(before, news));
  });
  return { head, people, line };
}
