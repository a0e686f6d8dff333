import { asc, eq } from 'drizzle-orm';
import { expect, it } from 'vitest';
import { type RoundRules, roundLearnings, roundPaces, usualRound } from '../src/core/round/roundRules';
import { course, paperSlot, user } from '../src/db/schema';
import { beginRound } from '../src/server/round/beginRound';
import { doorOf } from '../src/server/round/doors';
import { leadRound } from '../src/server/round/lead';
import { must } from '../src/server/testing/school';
import { openHouse, teacher } from './house';
import { secretExam, secretWords } from './secretExam';
import { post } from './serve';

const house = openHouse();

function context() {
  const person = house.db.select().from(user).where(eq(user.email, teacher)).get();
  return { db: house.db, actor: { userId: person?.id ?? '', name: person?.name ?? '' }, now: Date.now() };
}
const courseId = () =>
  house.db.select().from(course).where(eq(course.name, 'Coastal Navigation Theory')).get()?.id ?? '';

/** Comes in by a name. @returns the cookies of the device, and its attempt */
async function enter(sittingId: string, name: string): Promise<{ cookies: string; attemptId: string }> {
  const came = await post(house.served.origin, '/api/in', {
    code: doorOf(house.db, courseId()),
    sittingId,
    name,
  });
  const cookies = came.headers
    .getSetCookie()
    .map((one) => one.split(';')[0])
    .join('; ');
  return { cookies, attemptId: ((await came.json()) as { attemptId: string }).attemptId };
}

/** The first event of a stream. */
async function firstEvent(path: string, cookies: string): Promise<string> {
  const stop = new AbortController();
  const response = await fetch(house.served.origin + path, { headers: { cookie: cookies }, signal: stop.signal });
  const reader = response.body?.getReader();
  let text = '';
  while (!text.includes('\n\n')) {
    const part = await reader?.read();
    if (!part || part.done) break;
    text += new TextDecoder().decode(part.value);
  }
  stop.abort();
  return text;
}

const bodyOf = async (path: string, cookies: string) =>
  (await fetch(house.served.origin + path, { headers: { cookie: cookies } })).text();

it('sends no key before its moment, and never another’s name or answer, at any pace and whenever it is learnt', async () => {
  const examId = secretExam(context(), courseId());
  const cookiesOfTeacher = await house.cookiesOf(teacher);
  let looked = 0;
  for (const pace of roundPaces)
    for (const learning of roundLearnings) {
      const rules: RoundRules = { ...usualRound, pace, learning, comingIn: 'name' };
      const { sittingId } = must(beginRound(context(), courseId(), { examId, rules }));
      const ana = await enter(sittingId, 'ANANAMEHERE');
      const bo = await enter(sittingId, 'BONAMEHERE');
      const act = (kind: 'open' | 'close' | 'show', question: number) =>
        must(leadRound(context(), courseId(), sittingId, { kind, question }));
      const opened = (await (
        await post(house.served.origin, `/api/attempts/${bo.attemptId}/open`, null, bo.cookies)
      ).json()) as { epoch: number };
      const slots = house.db
        .select()
        .from(paperSlot)
        .where(eq(paperSlot.attemptId, bo.attemptId))
        .orderBy(asc(paperSlot.position))
        .all();
      /** All that Ana’s device and the wall are sent now. */
      const sent = async () => {
        const device = [
          await firstEvent(`/api/rounds/${sittingId}/live`, ana.cookies),
          await bodyOf(`/in/${sittingId}`, ana.cookies),
          await (await post(house.served.origin, `/api/attempts/${ana.attemptId}/open`, null, ana.cookies)).text(),
        ].join('\n');
        const wall = [
          await firstEvent(`/wall/${courseId()}/${sittingId}/live`, cookiesOfTeacher),
          await bodyOf(`/wall/${courseId()}/${sittingId}`, cookiesOfTeacher),
        ].join('\n');
        looked += device.length + wall.length;
        return { device, wall };
      };
      const nothingSecret = async (but: string[] = []) => {
        const { device, wall } = await sent();
        for (const secret of secretWords.filter((one) => !but.includes(one))) {
          expect(device, `${pace} ${learning} device ${secret}`).not.toContain(secret);
          expect(wall, `${pace} ${learning} wall ${secret}`).not.toContain(secret);
        }
        expect(device, `${pace} ${learning}`).not.toContain('BONAMEHERE');
        expect(device, `${pace} ${learning}`).not.toContain('BOWROTETHIS');
        for (const word of ['ANANAMEHERE', 'BONAMEHERE', 'BOWROTETHIS'])
          expect(wall, `${pace} ${learning} wall ${word}`).not.toContain(word);
        return { device, wall };
      };
      const give = (place: number, value: unknown) =>
        post(
          house.served.origin,
          `/api/attempts/${bo.attemptId}/save`,
          { slotId: slots[place]?.id, epoch: opened.epoch, sequence: place + 1, value, comeBack: false, vote: 1 },
          bo.cookies,
        );
      await nothingSecret();
      if (pace === 'own') {
        await give(1, { text: 'BOWROTETHIS' });
        await nothingSecret();
        continue;
      }
      // Ahead, its words are nobody’s yet either.
      expect((await sent()).device).not.toContain('How many');
      act('open', 1);
      await give(1, { text: 'BOWROTETHIS' });
      expect((await nothingSecret()).device).toContain('How many');
      act('close', 1);
      const closed = await nothingSecret();
      expect(closed.wall).toMatch(/\\?"answered\\?":1/);
      act('show', 1);
      // Now the number may be known: on the wall, and on devices where it is learnt as it is shown.
      const shown = await nothingSecret(['86421.5']);
      expect(shown.wall).toContain('86421.5');
      if (learning === 'each') expect(shown.device).toContain('86421.5');
      else expect(shown.device).not.toContain('86421.5');
    }
  expect(looked).toBeGreaterThan(50_000);
}, 120_000);
