import { minute } from '../../src/core/base/time';
import { previewRemarking } from '../../src/server/marking/remarking';
import { scoredAttempts } from '../../src/server/records/newestMarks';
import { must, numberContent, School } from '../../src/server/testing/school';
import { takePaper } from '../../src/server/testing/takePaper';
import { inTurn, report } from './measure';

const students = 1_000;
const questions = 40;

/**
 * remark.preview: what re-marking a question would change, over 1,000 attempts of 40 questions, all of whose results move.
 * Baseline: reading the same attempts' scores once, without any re-mark.
 */
export function remarkPreview(): void {
  const school = new School(students);
  const ids = Array.from({ length: questions }, (_, n) => school.question(numberContent(`question ${n}`, String(n))));
  const sittingId = school.sitting(school.exam(ids.map((id) => school.fixed(id, 1))));
  school.students.forEach((student, i) => {
    takePaper(
      school,
      sittingId,
      student,
      ids.map((_, n) => (n === 0 ? { text: '7' } : { text: String((i + n) % 3 ? n : 0) })),
    );
  });
  const context = school.as(school.teacher, 30 * minute);
  let changing = 0;
  const times = inTurn(
    5,
    1,
    () => {
      changing = must(previewRemarking(context, school.courseId, ids[0] as string, { policy: 'everyone' })).results
        .length;
    },
    () => {
      scoredAttempts(school.db, { sittingId });
    },
  );
  report({
    name: 'remarking.preview',
    value: times.work,
    unit: 'ms for 1,000 attempts of 40 questions',
    baseline: times.baseline,
    ratio: times.work / times.baseline,
    changing,
  });
}
