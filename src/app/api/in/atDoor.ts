import { contextFor, house } from '@/server/house/context';
import { actorOf } from '@/server/people/auth';
import type { AtDoor } from '@/server/round/comeIn';

/** Who stands at a door: whoever is signed in in this browser, if anybody is. */
export async function atDoor(headers: Headers): Promise<AtDoor> {
  const { db, now } = contextFor(house);
  return { db, now, address: headers.get('x-forwarded-for') ?? '', actor: await actorOf(headers) };
}
