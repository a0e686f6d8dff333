'use server';
import { headers } from 'next/headers';
import { onceNameOf } from '@/core/base/once';
import { notFound, type Result, refused } from '@/core/base/result';
import type { AnyUseCase } from '@/server/house/useCase';
import { served } from '@/server/served';
import { isOwnOrigin } from './api/reply';
import { acting } from './request';

/**
 * The one action by which pages ask the server: a use-case by its name, the ids the page knows, and what it takes besides.
 * Everything of it comes from a browser, and is believed by nobody: the use-case admits and reads.
 */
export async function ask(name: string, where: unknown, ...sent: unknown[]): Promise<Result<unknown>> {
  if (!isOwnOrigin(await headers())) return refused('not-allowed', 'This does not come from a page of Wuzzen.');
  const useCase = Object.hasOwn(served, name) ? (served[name as keyof typeof served] as AnyUseCase) : null;
  if (!useCase) return notFound('use-case');
  const known = new Map(Object.entries(typeof where === 'object' && where !== null ? where : {}));
  const further = [...sent];
  const once = onceNameOf(further.at(-1));
  if (once !== null) further.pop();
  const ids = useCase.door.ids.map((id: string) => known.get(id) ?? further.shift());
  if (ids.some((id: unknown) => typeof id !== 'string')) return notFound('place');
  const as = known.get('as');
  return acting(
    (context) => useCase(once === null ? context : { ...context, once: `${name}/${once}` }, ...ids, ...further),
    typeof as === 'string' ? as : null,
  );
}
