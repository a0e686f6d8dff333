import { isNull } from 'drizzle-orm';
import fc from 'fast-check';
import { afterEach, it } from 'vitest';
import { membership, user } from '../src/db/schema';
import { knownStories } from '../src/stories/known';
import { anyStory, type Story } from '../src/stories/story';
import { Clocks } from './clocks';
import { openHouse } from './house';
import { type Devices, giveStory, PlayOnPage } from './storyPlay';

const house = openHouse();
const clocks = new Clocks(house);

/** The stories known by name, and others of the kind that is played in memory, a little shorter: so many in all. */
const many = Number(process.env.STORIES_ON_PAGE ?? 100);
const seed = Number(process.env.STORIES_SEED ?? 5);
const random = fc.sample(anyStory, { seed, numRuns: Math.max(0, many - Object.keys(knownStories).length) });
const stories: [string, Story][] = [
  ...Object.entries(knownStories),
  ...random.map((story, i): [string, Story] => [`story ${i + 1}`, { ...story, steps: story.steps.slice(0, 8) }]),
];
const perTest = 10;
/** The sitting for each meeting of rules: every test has a student of its own. */
const given = new Map<string, string>();
const sittingFor = (rules: Story['rules'], taken: Set<string>): string => {
  const key = [...rules].sort().join();
  const name = taken.has(key) ? `${key}, again ${taken.size}` : key;
  taken.add(name);
  const sittingId = given.get(name) ?? giveStory(house, rules, `Story of ${name || 'no rule'}`);
  given.set(name, sittingId);
  return sittingId;
};

/** Students of the demo's course who can sign in. */
const students = (): string[] => {
  const members = new Set(
    house.db
      .select({ id: membership.userId, role: membership.role })
      .from(membership)
      .where(isNull(membership.removedAt))
      .all()
      .flatMap((row) => (row.role === 'student' ? row.id : [])),
  );
  return house.db
    .select()
    .from(user)
    .all()
    .flatMap((row) => (members.has(row.id) && row.email?.endsWith('@ternpoint.example') ? row.email : []));
};

afterEach(() => clocks.back());

for (let from = 0; from < stories.length; from += perTest)
  it(`stories ${from + 1} to ${Math.min(from + perTest, stories.length)} on the real page: nobody stuck, nothing lost, the receipt true`, async () => {
    const emails = students();
    const email = emails[(from / perTest) % emails.length] ?? '';
    const devices: Devices = { email, pages: [await house.page(email), await house.page(email)] };
    for (const page of devices.pages) await page.goto(`${house.served.origin}/account`);
    const taken = new Set<string>();
    for (const [name, story] of stories.slice(from, from + perTest)) {
      const sittingId = sittingFor(story.rules, taken);
      await new PlayOnPage(house, clocks, story, devices, sittingId).play().catch((why: unknown) => {
        throw new Error(`${name}: ${JSON.stringify(story)}`, { cause: why });
      });
      await clocks.back();
    }
  }, 240_000);
