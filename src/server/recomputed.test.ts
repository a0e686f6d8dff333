import { describe, expect, it } from 'vitest';
import { totalAs } from './gradebook/myTotal';
import { questionGrid } from './release/questionGrid';
import { reviewAs } from './release/review';
import { differences } from './testing/everywhere';
import { RandomSchool } from './testing/randomSchool';
import { choiceContent, must, School } from './testing/school';
import { takePaper } from './testing/takePaper';

const schools = Array.from({ length: 12 }, (_, i) => `school ${i}`);
const deeds = 15;

describe('whatever happens in a course', () => {
  it.each(schools)(
    'pages and exports say what is worked out a second time from the database alone: %s',
    async (seed) => {
      const random = new RandomSchool(seed);
      const { courseId } = random.school;
      const story: string[] = [];
      for (let i = 0; i < deeds; i++) {
        story.push(random.act());
        if (i % 5 < 4) continue;
        const said = await differences(random.teacher(), courseId);
        expect([story.join(), ...said.slice(0, 10)]).toEqual([story.join()]);
      }
    },
  );

  it.each(schools.slice(4))('the parts of what a student is told sum to what is shown: %s', (seed) => {
    const random = new RandomSchool(`parts of ${seed}`);
    const { courseId, students } = random.school;
    // Who has left without having taken it reads nothing of it.
    const read = (sittingId: string, userId: string) => {
      const at = random.teacher().now;
      const page = reviewAs(random.teacher(), courseId, sittingId, { userId, at, number: null, published: false });
      return page.ok ? page.value : null;
    };
    const before = new Map<string, ReturnType<typeof read>>();
    let looked = 0;
    let changes = 0;
    for (let i = 0; i < deeds; i++) {
      const deed = random.act();
      for (const sittingId of random.sittings)
        for (const { userId } of students) {
          const page = read(sittingId, userId);
          const was = before.get(`${sittingId}/${userId}`);
          before.set(`${sittingId}/${userId}`, page);
          const score = page?.score;
          if (!score || score.preliminary) continue;
          const isOne = page.attempts.filter((one) => one.counts).length === 1;
          const isTold = deed === 'publish' && page.changed.length > 0 && was?.score?.publishedAt !== score.publishedAt;
          // In a choose-part not every question counts; of several attempts it is their mean.
          const chooses = sittingId === random.sittings[1];
          if (isOne && !chooses) {
            looked += 1;
            const counted = page.questions.filter((one) => one.outcome !== 'left-out');
            const points = counted.reduce((sum, one) => sum + (one.points ?? 0), 0);
            const of = counted.reduce((sum, one) => sum + one.outOf, 0);
            const added = adjustedBy(page.adjusted);
            expect(score.possible, deed).toBeCloseTo(of, 9);
            expect(score.earned, deed).toBeCloseTo(added === 0 ? points : Math.max(0, Math.min(of, points + added)), 9);
          }
          if (isTold && was?.score) {
            changes += 1;
            const [then, now] = scoresIn(page.changed[0] ?? '') ?? [was.score.earned, score.earned];
            expect([then, now], page.changed.join(' ')).toEqual([round(was.score.earned), round(score.earned)]);
          }
        }
      for (const { userId } of students) {
        const total = must(totalAs(random.teacher(), courseId, userId));
        const line = total.parts.at(-1)?.lines[0] ?? '';
        if (total.percent === '') {
          expect(line).toBe('Nothing counts yet.');
          continue;
        }
        const numbers = [...line.matchAll(/(-?[\d.]+) %/g)].map((one) => Number(one[1]));
        const sum = numbers.slice(0, -1).reduce((all, one) => all + one, 0);
        // Each is shown with two decimals.
        expect(Math.abs(sum - (numbers.at(-1) ?? 0)), line).toBeLessThan(0.005 * numbers.length + 1e-9);
        expect(Math.abs(Number(total.percent) - (numbers.at(-1) ?? 0)), line).toBeLessThan(0.51);
      }
    }
    told.parts += looked;
    told.changes += changes;
  });

  it('there was much to be told', () => {
    expect(told.parts).toBeGreaterThan(200);
    expect(told.changes).toBeGreaterThan(10);
  });

  it('who chose nothing of a choose-part stands among the others with nothing', () => {
    const school = new School(2);
    const lines = ['one', 'two'].map((stem) => school.fixed(school.question(choiceContent(stem)), 2));
    const sittingId = school.sitting(
      school.exam(lines, null, (design) => ({
        ...design,
        parts: design.parts.map((part) => ({ ...part, choose: { count: 1, extra: 'best' as const } })),
      })),
    );
    for (const [i, student] of school.students.entries())
      takePaper(school, sittingId, student, i ? [] : [{ picked: 'zzzz' }]);
    const { rows } = must(questionGrid(school.as(school.teacher, 3_600_000), school.courseId, sittingId));
    expect(rows.map((row) => row.percent)).toEqual([0, 0]);
  });
});

const told = { parts: 0, changes: 0 };
const round = (points: number) => Math.round(points * 100 + 1e-9) / 100;

/** What was added to whole papers, as the sentences say. */
const adjustedBy = (said: readonly string[]): number =>
  said.reduce((sum, one) => {
    const points = Number(/([\d.]+) points?/.exec(one)?.[1] ?? 0);
    return sum + (/taken/.test(one) ? -points : points);
  }, 0);

/** The score before and now, of the sentence that says both. */
function scoresIn(said: string): [number, number] | null {
  const found = /^Your score was ([\d.]+) of [\d.]+ until .*; now it is ([\d.]+) of/.exec(said);
  return found ? [Number(found[1]), Number(found[2])] : null;
}
