import fc from 'fast-check';
import { Play } from '../../src/stories/play';
import { anyStory } from '../../src/stories/story';
import { StoryWorld } from '../../src/stories/world';
import { report } from './measure';

const stories = 600;

/**
 * attempt.stories: random stories of an attempt played in memory against the plain model: stories a second. Baseline: as
 * many stories of which nothing but the start and the end is played, so that what is left is the price of the steps.
 */
export async function attemptStories(): Promise<void> {
  const told = fc.sample(anyStory, { seed: 22, numRuns: stories });
  const run = async (steps: boolean): Promise<number> => {
    let world = new StoryWorld(40);
    let took = 0;
    for (const story of told) {
      let place = world.next(story.rules);
      if (!place) {
        world = new StoryWorld(40);
        place = world.next(story.rules);
      }
      if (!place) throw new Error('a student');
      const begun = performance.now();
      await new Play(world, steps ? story : { ...story, steps: [] }, place).play();
      took += performance.now() - begun;
    }
    return (stories / took) * 1_000;
  };
  await run(true);
  const value = await run(true);
  const baseline = await run(false);
  report({ name: 'attempt.stories', value, unit: 'stories per second', baseline, ratio: baseline / value });
}
