'use server';
import { ok } from '@/core/base/result';
import { openTryOut, scoreTryOut } from '@/server/attempt/tryOut';
import { acting } from '../request';

export async function open() {
  return acting((context) => ok(openTryOut(context)));
}

export async function score(answers: { slotId: string; value: unknown }[]) {
  const given = Array.isArray(answers) ? answers.slice(0, 100) : [];
  return acting(() => ok(scoreTryOut(new Map(given.map(({ slotId, value }) => [String(slotId), value])))));
}
