import fc from 'fast-check';
import { expect, it } from 'vitest';
import { knownStories } from './known';
import { Play } from './play';
import { anyStory, type Story } from './story';
import { StoryWorld } from './world';

/** How many, and which: more of them, and others, are played by setting these. */
const stories = Number(process.env.STORIES ?? 2_000);
const seed = Number(process.env.STORIES_SEED ?? 22);

it('in no story of two rules, two windows, broken networks, clocks at every boundary and an invigilator is anybody stuck, anything lost without a word, or anything told that is not so', async () => {
  let world = new StoryWorld(40);
  let played = 0;
  await fc.assert(
    fc.asyncProperty(anyStory, async (story) => {
      let place = world.next(story.rules);
      if (!place) {
        world = new StoryWorld(40);
        place = world.next(story.rules);
      }
      if (!place) throw new Error('a student');
      await new Play(world, story, place).play();
      played += 1;
    }),
    {
      seed,
      numRuns: stories,
      examples: Object.values(knownStories).map((story): [Story] => [story]),
    },
  );
  expect(played).toBeGreaterThanOrEqual(stories);
}, 600_000);
