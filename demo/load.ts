import { and, asc, eq } from 'drizzle-orm';
import { localFromInstant } from '../src/core/base/localTime';
import { type Random, seededRandom, shuffled } from '../src/core/base/random';
import type { Result } from '../src/core/base/result';
import { richFromText } from '../src/core/base/rich';
import { day, hour, inZone, minute } from '../src/core/base/time';
import type { ExamDesign, ExamLine } from '../src/core/exam/design';
import { expectedMinutes } from '../src/core/exam/expectedMinutes';
import type { ItemChange } from '../src/core/exam/items/changeItems';
import type { ItemType } from '../src/core/exam/items/kinds';
import type { Completion } from '../src/core/gradebook/completion';
import type { QuestionContent } from '../src/core/question/content';
import { definitionOf } from '../src/core/question/definitions';
import type { Difficulty, QuestionType } from '../src/core/question/types';
import { leakKey } from '../src/core/release/leakCheck';
import { presets } from '../src/core/release/presets';
import { publishingNumbers } from '../src/core/release/publishingNumbers';
import type { Db } from '../src/db/client';
import { attempt, paperSlot, question, questionVersion, user } from '../src/db/schema';
import { noteContact, storeContacts } from '../src/server/attempt/contacts';
import { handInExpired } from '../src/server/attempt/endAttempt';
import { handIn } from '../src/server/attempt/handIn';
import { saveResponses } from '../src/server/attempt/saveResponses';
import { startAttempt } from '../src/server/attempt/startAttempt';
import { openForWriting } from '../src/server/attempt/takeAttempt';
import { createCategory, renameCategory, seeCategories } from '../src/server/bank/categories';
import { storeMedia } from '../src/server/bank/media';
import { alignQuestion, createObjective, objectivesInCourse } from '../src/server/bank/objectives';
import { savePassage } from '../src/server/bank/passages';
import { createQuestion } from '../src/server/bank/questions';
import { createExam, openExam, saveExam } from '../src/server/exam/exams';
import { changeExamItems } from '../src/server/exam/items';
import { askForLook, openLook, remark, settleRemark, signOff } from '../src/server/exam/looks';
import { columnsOf, groupsOf } from '../src/server/gradebook/bookData';
import { addColumn, saveNumbers } from '../src/server/gradebook/bookSettings';
import { enterCell } from '../src/server/gradebook/entries';
import { type Actor, type Context, newId } from '../src/server/house/context';
import { answersToMark, moreAnswers } from '../src/server/marking/answersToMark';
import { giveMark } from '../src/server/marking/giveMark';
import { markingQueue } from '../src/server/marking/markingQueue';
import { keepComment } from '../src/server/marking/savedComments';
import { setPassword } from '../src/server/people/auth';
import { changePerson } from '../src/server/people/changePerson';
import { beginCourse, changeCourse } from '../src/server/people/courses';
import { demoPassword } from '../src/server/people/demoPeople';
import { addPerson, addRoster, listPeople } from '../src/server/people/roster';
import { setHouseInstructions } from '../src/server/people/schoolInstructions';
import { sittingOf } from '../src/server/records/audience';
import { pinnedDesign } from '../src/server/records/pinnedDesign';
import { publishReady } from '../src/server/release/publish';
import { replyToFeedback } from '../src/server/release/replies';
import { sittingResults } from '../src/server/release/results';
import { addNote, addTime } from '../src/server/room/invigilate';
import { reportQuestion } from '../src/server/room/reportedQuestions';
import { leaksOf } from '../src/server/sitting/leaksOf';
import type { Who } from '../src/server/sitting/rulesInput';
import { saveSitting } from '../src/server/sitting/saveRules';
import { acknowledge } from '../src/server/sitting/schedule';
import { createSitting } from '../src/server/sitting/sittings';
import { scheduleAcknowledged } from '../src/server/testing/scheduleAcknowledged';
import { answer, knows } from './answers';
import { categories, type DemoQuestion, objectives, questions } from './bank';
import { one, say } from './compose';
import { composed } from './composed';
import { figures } from './figures';
import { readFromPaper } from './onPaper';
import { passages } from './passages';
import { emailOf, guest, instructors, marker, students } from './people';
import { roundsHeld } from './rounds';

const zone = 'Europe/Oslo';

function must<T>(result: Result<T>): T {
  if (!result.ok)
    throw new Error(result.problems.map((problem) => `${problem.field ?? ''} ${problem.message}`).join('; '));
  return result.value;
}

export function contentOf(one: DemoQuestion): QuestionContent {
  const feedback = one.solution ? { solution: richFromText(one.solution) } : {};
  const stem = richFromText(one.ask);
  switch (one.type) {
    case 'single-choice': {
      const wrong = one.wrong.map((choice) =>
        typeof choice === 'string' ? { text: choice } : { text: choice[0], feedback: richFromText(choice[1]) },
      );
      const right = { text: one.right, feedback: undefined };
      // The right choice stands in different places in the bank, as in any bank that grew over years.
      const place = one.name.length % (wrong.length + 1);
      const ordered = [...wrong.slice(0, place), right, ...wrong.slice(place)];
      return {
        type: 'single-choice',
        stem,
        shuffle: true,
        feedback,
        choices: ordered.map((choice, i) => ({
          id: `c${i}`,
          content: richFromText(choice.text),
          right: choice === right,
          pinned: false,
          ...(choice.feedback ? { feedback: choice.feedback } : {}),
        })),
      };
    }
    case 'numeric': {
      const tolerance =
        one.percent === undefined
          ? { kind: 'absolute' as const, amount: one.absolute ?? 0 }
          : { kind: 'relative' as const, amount: one.percent / 100 };
      const also = one.also
        ? [{ value: one.also[0], tolerance: { kind: 'absolute' as const, amount: one.also[1] }, credit: one.also[2] }]
        : [];
      return { type: 'numeric', stem, feedback, accepted: [{ value: one.value, tolerance, credit: 1 }, ...also] };
    }
    case 'written':
      return {
        type: 'written',
        stem,
        feedback,
        modelAnswer: richFromText(one.model),
        words: { least: one.least ?? null, most: one.most ?? null },
      };
  }
}

type Student = Actor & { ability: number };

/** Everything the parts of the demo share while it is being built. */
type Stage = {
  db: Db;
  /** The moment the demo is loaded; all its times are relative to it. */
  today: number;
  courseId: string;
  as: (actor: Actor, at: number) => Context;
  teacher: Actor;
  marker: Actor;
  /** The second instructor. */
  colleague: Actor;
  students: Student[];
  random: Random;
  category: (name: string) => string;
  questionId: (name: string) => string;
  sectionId: (name: string) => string;
};

/**
 * Loads the demo through the use-cases, as people would have done it over the last weeks.
 *
 * @param today the moment it is loaded
 */
export async function loadDemo(db: Db, today: number): Promise<void> {
  const stage = await people(db, today);
  bankFor(stage);
  await figuresFor(stage);
  const weekly = weeklyCheck(stage);
  const middle = midCourse(stage);
  const planning = passagePlanning(stage);
  steeringQuiz(stage);
  finalExam(stage);
  chartRoomTest(stage);
  rulesOfBook(stage);
  released(stage, weekly, middle);
  gradebookOf(stage, { weekly, middle, planning });
  inClass(stage);
  await onPaper(stage);
}

/** A test on paper, written yesterday and half read in. */
async function onPaper(stage: Stage): Promise<void> {
  const at = onTheHour(stage.today) - 26 * hour;
  const asked = [
    'Isophase',
    'North cardinal',
    'Isolated danger',
    'Fog signal under way',
    'Three short blasts',
    'Crossing under power',
    'Head on',
    'Sailing, different tacks',
    'Overtaking',
  ];
  const examId = exam(
    stage,
    at - 5 * day,
    'Quiz on paper',
    'One answer is right. Fill its box in with a soft pencil.',
    9,
    [{ title: 'All of it', lines: asked.map((name) => fixed(stage, name, 1)) }],
  );
  const sittingId = sitting(stage, at - 4 * day, examId, 'Quiz on paper', {
    opens: at,
    closes: at + hour,
    minutes: 30,
    attempts: 1,
    preset: 'all',
  });
  await readFromPaper(stage, sittingId);
}

/** What is asked in class: one exam that was held twice, and one that is ready to begin. */
function inClass(stage: Stage): void {
  const asked = ['Isophase', 'North cardinal', 'Isolated danger', 'Fog signal under way', 'Three short blasts'];
  const lines = (names: string[]) => names.map((name) => fixed(stage, name, 1));
  const heldTwice = exam(stage, stage.today - 13 * day, 'In class: signs at sea', '', null, [
    { title: 'Signs at sea', lines: lines(asked) },
  ]);
  exam(stage, stage.today - day, 'In class: who gives way', '', null, [
    {
      title: 'Who gives way',
      lines: lines(['Crossing under power', 'Head on', 'Sailing, different tacks', 'Overtaking']),
    },
  ]);
  roundsHeld(stage, heldTwice, asked.length);
}

/**
 * Puts results in front of the students. The final exam draws from the same questions: the instructor has read that, and
 * shows them all the same.
 */
function released(stage: Stage, weekly: string, middle: string): void {
  const { db, today, courseId } = stage;
  const at = onTheHour(today) - 7 * day;
  publishAll(stage, weekly, at + day, true);
  publishAll(stage, middle, at, true);
  const row = sittingOf(db, courseId, weekly);
  if (row)
    for (const leak of leaksOf(db, row, pinnedDesign(db, row.revisionId), today))
      must(acknowledge(stage.as(stage.teacher, at), courseId, weekly, leakKey(leak)));
  const words = [
    'Thank you. I still do not see why the second correction is subtracted in question 6.',
    'I mixed up deviation and variation again. May I come by on Thursday?',
  ];
  words.forEach((text, i) => {
    const student = stage.students[4 + i * 6];
    if (student) must(replyToFeedback(stage.as(student, today - (30 - i * 9) * hour), middle, text));
  });
}

const bands = [
  { label: 'With distinction', from: 85, comment: 'You can be trusted with the chart.' },
  { label: 'Good', from: 70, comment: 'Sound work; look again at what you missed.' },
  { label: 'Passed', from: 55, comment: 'It holds, with gaps. Study the cards before the final exam.' },
  { label: 'Not passed', from: 0, comment: 'Come and see me: we make a plan together.' },
];

/** How totals are computed and shown: settled before the first result is published, so that each is told with its band. */
function rulesOfBook({ courseId, as, teacher, today }: Stage): void {
  must(
    saveNumbers(as(teacher, today - 20 * day), courseId, {
      rules: { missing: 'zero', decimals: 1, bands, showsTotal: true },
    }),
  );
}

/** Groups with weights, a column of the school's own, and somebody who is excused. */
function gradebookOf(stage: Stage, sittings: { weekly: string; middle: string; planning: string }): void {
  const { courseId, db, today } = stage;
  const context = stage.as(stage.teacher, today - 3 * day);
  const group = (title: string, weight: number, drop: number) => ({
    id: '',
    title,
    weight,
    counting: 'points' as const,
    drop,
  });
  must(
    saveNumbers(context, courseId, {
      groups: [group('Checks', 20, 0), group('Exams', 60, 0), group('Seamanship', 20, 0)],
    }),
  );
  const [checks, exams, practice] = groupsOf(db, courseId).map((one) => one.id);
  const { columnId } = must(addColumn(context, courseId, { title: 'Logbook', worth: 10 }));
  const put = (id: string, part: object) => must(saveNumbers(context, courseId, { columns: { [id]: part } }));
  put(sittings.weekly, { groupId: checks ?? null });
  put(sittings.middle, { groupId: exams ?? null });
  put(sittings.planning, { groupId: exams ?? null, late: { perDay: 0.1, floor: 0.5 } });
  put(columnId, { groupId: practice ?? null });
  for (const column of columnsOf(db, courseId, true))
    if (column.groupId === '') put(column.id, { groupId: (column.title.includes('quiz') ? checks : exams) ?? null });
  stage.students.forEach((student, i) => {
    if (i % 7 === 5) return;
    const points = Math.min(10, Math.max(3, Math.round((6.5 + student.ability) * 2) / 2));
    must(enterCell(context, courseId, columnId, student.userId, { points, before: 0 }));
  });
  const excused = stage.students[17];
  if (excused)
    must(
      enterCell(context, courseId, sittings.middle, excused.userId, {
        points: null,
        excused: true,
        reason: 'In hospital that week.',
        before: 0,
      }),
    );
}

async function people(db: Db, today: number): Promise<Stage> {
  const began = today - 60 * day;
  const first = instructors[0] as { name: string; email: string };
  const teacher = { userId: newId(), name: first.name };
  const at = new Date(began);
  db.insert(user)
    .values({ id: teacher.userId, ...first, keepsSchool: true, createdAt: at, updatedAt: at })
    .run();
  const as = (actor: Actor, moment: number): Context => ({ db, actor, now: moment });
  const context = as(teacher, began);
  const { courseId } = beginCourse(context, { name: 'Coastal Navigation Theory', term: 'this term', timeZone: zone });
  must(
    setHouseInstructions(
      context,
      courseId,
      richFromText('Have your student card on the table. Whoever feels unwell raises a hand; your time waits for you.'),
    ),
  );
  const dayText = (at: number) => inZone(at, zone, 'yyyy-MM-dd');
  must(
    changeCourse(context, courseId, {
      name: 'Coastal Navigation Theory',
      term: 'this term',
      timeZone: zone,
      firstDay: dayText(today - 49 * day),
      freeDays: [{ from: dayText(today - 28 * day), to: dayText(today - 27 * day), name: 'Harbour days' }],
    }),
  );
  const add = (person: { name: string; email: string }, role: string, course = courseId) =>
    must(addPerson(context, course, { ...person, role, studentNumber: '', section: '' })).userId;
  const [colleague] = instructors.slice(1).map((person) => ({ userId: add(person, 'instructor'), name: person.name }));
  if (!colleague) throw new Error('The demo has two instructors.');
  const markerId = add(marker, 'marker');
  add(guest, 'guest');
  const list = students.map(([name, section], i) => `${name},${1001 + i},${emailOf(name)},${section}`);
  must(addRoster(context, courseId, `name,student number,email,section\n${list.join('\n')}`));

  const weather = beginCourse(context, { name: 'Marine Weather', term: 'this term', timeZone: zone });
  const few = students.slice(0, 6).map(([name], i) => `${name},${2001 + i},${emailOf(name)}`);
  must(addRoster(context, weather.courseId, `name,student number,email\n${few.join('\n')}`));

  const listed = must(listPeople(context, courseId));
  for (const [name, extraPercent] of [
    ['Marguerite de Kerguelen-Post', 25],
    ['Tomasz Wieczorny', 50],
  ] as const) {
    const person = listed.people.find((one) => one.name === name);
    if (person)
      must(
        changePerson(context, courseId, person.membershipId, {
          section: person.section,
          studentNumber: person.studentNumber,
          extraPercent,
        }),
      );
  }
  for (const person of listed.people) await setPassword(db, person.userId, demoPassword);

  const abilities = new Map(students.map(([name, , ability]) => [name, ability]));
  const sections = new Map(listed.sections.map((section) => [section.name, section.id]));
  return {
    db,
    today,
    courseId,
    as,
    teacher,
    marker: { userId: markerId, name: marker.name },
    colleague,
    students: listed.people
      .filter((one) => one.role === 'student')
      .map((one) => ({ userId: one.userId, name: one.name, ability: abilities.get(one.name) ?? 0 })),
    random: seededRandom('tern point'),
    category: () => '',
    questionId: () => '',
    sectionId: (name) => sections.get(name) as string,
  };
}

function bankFor(stage: Stage): void {
  const { db, courseId, today } = stage;
  const context = stage.as(stage.teacher, today - 50 * day);
  const bankId = db.query.courseBank.findFirst({ where: (row) => eq(row.courseId, courseId) }).sync()?.bankId as string;
  const [general] = must(seeCategories(context, courseId, bankId));
  const ids = new Map<string, string>();
  for (const path of categories) {
    const [name = '', ...above] = path.split(' › ').reverse();
    const parentId = above.length ? (ids.get(above.reverse().join(' › ')) as string) : null;
    if (ids.size === 0 && general) must(renameCategory(context, courseId, bankId, general.id, name));
    ids.set(
      path,
      ids.size === 0 && general
        ? general.id
        : must(createCategory(context, courseId, bankId, { name, parentId })).categoryId,
    );
  }
  const objectiveIds = new Map(
    objectives.map(([code, wording]) => [
      code,
      must(createObjective(context, courseId, bankId, { code, wording })).objectiveId,
    ]),
  );
  const questionIds = new Map<string, string>();
  const all = [...questions.map((one) => ({ ...one, content: contentOf(one) })), ...composed];
  all.forEach((one, i) => {
    const at = stage.as(stage.teacher, today - 50 * day + i * 20 * minute);
    const { questionId } = must(
      createQuestion(at, courseId, bankId, {
        categoryId: ids.get(one.in),
        shortName: one.name,
        difficulty: one.difficulty,
        points: definitionOf(one.content.type).usualPoints,
        content: one.content,
      }),
    );
    must(alignQuestion(at, courseId, bankId, questionId, [objectiveIds.get(one.objective) as string]));
    questionIds.set(one.name, questionId);
  });
  for (const shared of passages) {
    const at = stage.as(stage.teacher, today - 45 * day);
    const { passageId } = must(
      savePassage(at, courseId, bankId, null, { shortName: shared.name, content: shared.content }),
    );
    for (const [shortName, difficulty, content] of shared.questions)
      must(
        createQuestion(at, courseId, bankId, {
          categoryId: ids.get(shared.in),
          shortName,
          difficulty,
          passageId,
          content,
          objectives: [objectiveIds.get(shared.objective)],
        }),
      );
  }
  stage.category = (path) => ids.get(path) as string;
  stage.questionId = (name) => questionIds.get(name) as string;
}

/** The questions that ask about a drawing. */
async function figuresFor(stage: Stage): Promise<void> {
  const { db, courseId, today } = stage;
  const bankId = db.query.courseBank.findFirst({ where: (row) => eq(row.courseId, courseId) }).sync()?.bankId as string;
  const context = stage.as(stage.teacher, today - 44 * day);
  const objectiveOf = new Map(objectivesInCourse(db, courseId).map((row) => [row.code, row.id]));
  for (const figure of figures) {
    const { hash, kind, width, height } = must(
      await storeMedia(context, courseId, bankId, new TextEncoder().encode(figure.svg)),
    );
    const content = one(figure.ask, figure.right, figure.wrong);
    const drawing = { type: 'media' as const, attrs: { hash, kind, alt: figure.alt, width, height } };
    must(
      createQuestion(context, courseId, bankId, {
        categoryId: stage.category(figure.in),
        shortName: figure.name,
        difficulty: figure.difficulty,
        points: definitionOf('single-choice').usualPoints,
        content: {
          ...content,
          stem: { ...content.stem, content: [...content.stem.content, drawing] },
          feedback: { solution: say(figure.solution) },
        },
        objectives: [objectiveOf.get(figure.objective)],
      }),
    );
  }
}

type Part = { title: string; order?: 'as-written' | 'shuffled'; lines: ExamLine[] };

const draw = (
  stage: Stage,
  count: number,
  path: string,
  points: number,
  difficulties: Difficulty[] = [],
  types: QuestionType[] = [],
): ExamLine => ({
  kind: 'draw',
  id: newId(),
  count,
  points,
  pool: { categories: [{ id: stage.category(path), below: true }], difficulties, types },
});

const fixed = (stage: Stage, name: string, points: number): ExamLine => ({
  kind: 'fixed',
  id: newId(),
  questionId: stage.questionId(name),
  points,
});

function exam(
  stage: Stage,
  at: number,
  title: string,
  instructions: string,
  worth: number | null,
  parts: Part[],
  more: Partial<ExamDesign> = {},
): string {
  const context = stage.as(stage.teacher, at);
  const { examId } = must(createExam(context, stage.courseId, { title }));
  const design: ExamDesign = {
    instructions: richFromText(instructions),
    worth,
    parts: parts.map((part) => ({
      id: newId(),
      title: part.title,
      order: part.order ?? 'as-written',
      lines: part.lines,
    })),
    ...more,
  };
  const { edit } = must(openExam(context, stage.courseId, examId));
  const { check } = must(saveExam(context, stage.courseId, examId, { title, design, edit }));
  if (check.problems.length) throw new Error(check.problems.map((problem) => problem.message).join('; '));
  return examId;
}

type When = {
  /** A release plan by its key; without one, the score on publishing. */
  preset?: string;
  completion?: Completion;
  opens: number;
  closes: number;
  minutes: number | null;
  attempts: number | null;
  who?: Who;
  markerIds?: string[];
  due?: number;
};

/** Gives an exam as a scheduled sitting; `at` is when the instructor did so. */
function sitting(stage: Stage, at: number, examId: string, title: string, when: When): string {
  const context = stage.as(stage.teacher, at);
  const { sittingId } = must(createSitting(context, stage.courseId, { examId }));
  const local = (moment: number | undefined) => (moment === undefined ? '' : localFromInstant(moment, zone));
  must(
    saveSitting(context, stage.courseId, sittingId, {
      title,
      opens: local(when.opens),
      closes: local(when.closes),
      due: local(when.due),
      lastStart: '',
      timeLimitMinutes: when.minutes,
      attemptsAllowed: when.attempts,
      attemptCounts: 'best',
      who: when.who ?? { kind: 'course' },
      markerIds: when.markerIds ?? [],
      ...(when.preset ? { releasePlan: presets.find((one) => one.key === when.preset)?.plan } : {}),
      ...(when.completion ? { completion: when.completion } : {}),
    }),
  );
  must(scheduleAcknowledged(context, stage.courseId, sittingId));
  return sittingId;
}

/** A student takes a sitting. @param share how much of the paper they get through; @param handsIn null leaves it running */
function take(
  stage: Stage,
  student: Student,
  sittingId: string,
  startsAt: number,
  share: number,
  handsIn: number | null,
): void {
  const { db, random } = stage;
  const { attemptId } = must(startAttempt(stage.as(student, startsAt), sittingId));
  const { epoch } = must(openForWriting(stage.as(student, startsAt + 5_000), attemptId));
  const slots = db
    .select({ slot: paperSlot, content: questionVersion.content, difficulty: question.difficulty })
    .from(paperSlot)
    .innerJoin(questionVersion, eq(questionVersion.id, paperSlot.versionId))
    .innerJoin(question, eq(question.id, paperSlot.questionId))
    .where(eq(paperSlot.attemptId, attemptId))
    .orderBy(paperSlot.position)
    .all();
  slots.slice(0, Math.ceil(slots.length * share)).forEach(({ slot, content, difficulty }, i) => {
    const value = answer(
      content,
      slot.presentation,
      knows(student.ability, difficulty, random),
      student.ability,
      random,
    );
    const comeBack = handsIn === null && random.below(6) === 0;
    if (value === undefined && !comeBack) return;
    const save = { attemptId, slotId: slot.id, epoch, sequence: i + 1, value: value ?? null, comeBack };
    for (const saved of saveResponses(db, [
      { context: { actor: student, now: startsAt + (i + 1) * 20_000, db }, save },
    ]))
      must(saved);
  });
  if (handsIn === null) return;
  // Most of the time is spent on what asks for more, with a leaning of one's own.
  const chance = seededRandom('times in view', `${student.name}/${startsAt - stage.today}`);
  const weights = slots.map(
    ({ content }) => expectedMinutes(content.type, 40) * (0.6 + chance.below(100) / 100) * (1.15 - student.ability / 8),
  );
  const whole = weights.reduce((sum, one) => sum + one, 0);
  const spent = Math.min((handsIn - startsAt) * 0.9, whole * minute);
  const inView = new Map(slots.map(({ slot }, i) => [slot.id, (spent * (weights[i] as number)) / whole]));
  must(handIn(stage.as(student, handsIn), attemptId, { inView }));
}

const onTheHour = (moment: number) => Math.floor(moment / hour) * hour;

/** Practice with many attempts, closed last week. */
function weeklyCheck(stage: Stage): string {
  const at = onTheHour(stage.today) - 14 * day;
  const examId = exam(stage, at - day, 'Weekly check: heights of tide', 'Practice as often as you like.', 5, [
    { title: 'Heights', lines: [draw(stage, 4, 'Tides & streams › Heights', 1)] },
    {
      title: 'From a tide table',
      lines: [
        {
          kind: 'passage',
          id: newId(),
          count: 1,
          questions: 2,
          points: 1,
          pool: { categories: [{ id: stage.category('Tides & streams › Heights'), below: true }], difficulties: [] },
        },
      ],
    },
  ]);
  const sittingId = sitting(stage, at - day, examId, 'Weekly check: heights of tide', {
    opens: at,
    closes: at + 7 * day,
    minutes: null,
    attempts: null,
    preset: 'practice',
    completion: { kind: 'when-passed', percent: 60 },
  });
  for (const [i, student] of stage.students.entries()) {
    const tries = i % 9 === 4 ? 0 : 1 + stage.random.below(3);
    for (let go = 0; go < tries; go++) {
      const starts = at + (go + 1) * day + stage.random.below(10 * 60) * minute;
      take(
        stage,
        { ...student, ability: student.ability + go * 0.6 },
        sittingId,
        starts,
        1,
        starts + (6 + stage.random.below(15)) * minute,
      );
    }
  }
  return sittingId;
}

/** Over, marked and published. */
function midCourse(stage: Stage): string {
  const at = onTheHour(stage.today) - 10 * day;
  const examId = exam(
    stage,
    at - 7 * day,
    'Mid-course theory exam',
    'Calculators and plotting instruments are allowed. Give numbers without a unit.',
    30,
    [
      { title: 'Chartwork', lines: [draw(stage, 4, 'Charts & position', 2), draw(stage, 4, 'Compass & variation', 2)] },
      {
        title: 'Tides',
        order: 'shuffled',
        lines: [draw(stage, 3, 'Tides & streams', 2, ['easy']), draw(stage, 4, 'Tides & streams › Heights', 2)],
      },
      { title: 'In your own words', lines: [fixed(stage, 'Person overboard, by engine', 6)] },
    ],
  );
  const sittingId = sitting(stage, at - 3 * day, examId, 'Mid-course theory exam', {
    opens: at,
    closes: at + 3 * hour,
    minutes: 60,
    attempts: 1,
    markerIds: [stage.marker.userId],
    preset: 'all',
  });
  for (const [i, student] of stage.students.entries()) {
    if (i === 17) continue;
    const starts = at + stage.random.below(45) * minute;
    take(stage, student, sittingId, starts, i % 11 === 3 ? 0.8 : 1, starts + (38 + stage.random.below(20)) * minute);
  }
  markAll(stage, sittingId, at + 2 * day, 1);
  return sittingId;
}

/** Written answers, half of them marked; two students handed nothing in. */
function passagePlanning(stage: Stage): string {
  const at = onTheHour(stage.today) - 4 * day;
  const examId = exam(
    stage,
    at - 7 * day,
    'Passage-planning paper',
    'Answer in full sentences. Say what decides, not only what you would do.',
    25,
    [
      { title: 'Brief questions', lines: [draw(stage, 2, 'Passage planning', 2, ['easy', 'medium'])] },
      { title: 'Written answers', lines: [fixed(stage, 'Alternatives', 10), fixed(stage, 'Read a report', 6)] },
    ],
  );
  const sittingId = sitting(stage, at - 5 * day, examId, 'Passage-planning paper', {
    opens: at,
    closes: at + 2 * day,
    due: at + day,
    minutes: 90,
    attempts: 1,
    markerIds: [stage.marker.userId],
    preset: 'after-all',
  });
  for (const [i, student] of stage.students.entries()) {
    if (i === 6 || i === 21) continue;
    const starts = at + stage.random.below(30 * 60) * minute;
    take(stage, student, sittingId, starts, 1, starts + (45 + stage.random.below(40)) * minute);
  }
  markAll(stage, sittingId, at + 3 * day, 0.5);
  return sittingId;
}

/** Open right now, with students in every state. */
function steeringQuiz(stage: Stage): void {
  const { today } = stage;
  const examId = exam(
    stage,
    today - 6 * day,
    'Steering-rules quiz',
    'Ten questions on who keeps clear, and on lights and sounds. No books.',
    10,
    [
      {
        title: 'Who keeps clear',
        order: 'shuffled',
        lines: [draw(stage, 6, 'Steering & sailing rules', 1, [], ['single-choice'])],
      },
      {
        title: 'Signs at sea',
        order: 'shuffled',
        lines: [draw(stage, 4, 'Lights, buoys & sounds', 1, [], ['single-choice'])],
      },
    ],
  );
  const sittingId = sitting(stage, today - 2 * day, examId, 'Steering-rules quiz', {
    opens: onTheHour(today) - 2 * hour,
    closes: onTheHour(today) + 30 * hour,
    minutes: 40,
    attempts: 1,
  });
  shuffled(stage.students, stage.random).forEach((student, i) => {
    if (i < 9) take(stage, student, sittingId, today - (100 - i * 3) * minute, 1, today - (80 - i * 3) * minute);
    else if (i < 15) take(stage, student, sittingId, today - (22 - i) * minute, (i - 8) / 7, null);
  });
  handInExpired({ db: stage.db, now: today });
  inTheRoom(stage, sittingId);
}

/** What goes on in the room of the quiz: who was heard of last, what students reported, what was written down. */
function inTheRoom(stage: Stage, sittingId: string): void {
  const { db, today } = stage;
  const running = db
    .select({ id: attempt.id, userId: attempt.userId })
    .from(attempt)
    .where(and(eq(attempt.sittingId, sittingId), eq(attempt.state, 'running')))
    .orderBy(asc(attempt.startedAt))
    .all();
  running.forEach(({ id }, i) => {
    noteContact(id, today - (i === 1 ? 6 * minute : i * 4_000));
  });
  storeContacts(db);
  const words = [
    'Choices B and D say the same thing to me.',
    'Is this about sailing vessels only? The text does not say.',
  ];
  words.forEach((text, i) => {
    const one = running[i + 2];
    const slot =
      one &&
      db
        .select({ id: paperSlot.id })
        .from(paperSlot)
        .where(eq(paperSlot.attemptId, one.id))
        .orderBy(asc(paperSlot.position))
        .get();
    const student = stage.students.find((each) => each.userId === one?.userId);
    if (one && slot && student)
      must(reportQuestion(stage.as(student, today - (5 - i) * minute), one.id, slot.id, text));
  });
  const teacher = stage.as(stage.teacher, today - 9 * minute);
  must(
    addNote(teacher, stage.courseId, sittingId, {
      kind: 'message',
      userId: null,
      text: 'The clock on the wall is four minutes slow. The one on your page is right.',
    }),
  );
  must(
    addNote(stage.as(stage.teacher, today - 7 * minute), stage.courseId, sittingId, {
      kind: 'incident',
      userId: running[0]?.userId ?? null,
      text: 'Asked to leave the room for five minutes; accompanied.',
    }),
  );
  must(addTime(stage.as(stage.teacher, today - 2 * minute), stage.courseId, sittingId, [running[0]?.id ?? ''], 5));
}

/** To come: draws from every category. */
function finalExam(stage: Stage): void {
  const { today } = stage;
  const examId = exam(
    stage,
    today - 3 * day,
    'Final theory exam',
    'Bring pencils, dividers and a calculator. Phones stay in the bag.',
    100,
    [
      {
        title: 'Position and direction',
        order: 'shuffled',
        lines: [draw(stage, 4, 'Charts & position', 3), draw(stage, 4, 'Compass & variation', 3)],
      },
      {
        title: 'Tides',
        order: 'shuffled',
        lines: [
          draw(stage, 4, 'Tides & streams › Heights', 3),
          draw(stage, 3, 'Tides & streams › Streams', 3),
          draw(stage, 2, 'Tides & streams › Secondary ports', 4),
        ],
      },
      {
        title: 'Rules, lights and sounds',
        order: 'shuffled',
        lines: [draw(stage, 6, 'Steering & sailing rules', 2), draw(stage, 4, 'Lights, buoys & sounds', 2)],
      },
      {
        title: 'Weather and safety',
        order: 'shuffled',
        lines: [
          draw(stage, 3, 'Weather', 2, ['easy', 'medium']),
          draw(stage, 3, 'Safety at sea', 2, ['easy', 'medium']),
        ],
      },
      { title: 'In your own words', lines: [fixed(stage, 'Night entry', 8)] },
    ],
    { equalHardness: { within: 2 } },
  );
  const opens = onTheHour(today) + 12 * day;
  sitting(stage, today - day, examId, 'Final theory exam, Weekday', {
    opens,
    closes: opens + 4 * hour,
    minutes: 120,
    attempts: 1,
    who: { kind: 'some', sectionIds: [stage.sectionId('Weekday')], studentIds: [] },
    markerIds: [stage.marker.userId],
  });
  const context = stage.as(stage.teacher, today - hour);
  must(createSitting(context, stage.courseId, { examId }));
  colleaguesLook(stage, examId);
}

/** The second instructor has remarked on the final exam and signed it off; the marker has been asked. */
function colleaguesLook(stage: Stage, examId: string): void {
  const { courseId, today } = stage;
  const asking = stage.as(stage.teacher, today - 20 * hour);
  const ask = (colleague: Actor, note: string) =>
    must(askForLook(asking, courseId, examId, { colleagueId: colleague.userId, note }));
  ask(stage.colleague, 'Are 120 minutes enough for the chartwork?');
  ask(stage.marker, 'Please read the written question with its rubric.');
  const looking = stage.as(stage.colleague, today - 6 * hour);
  const [position] = must(openLook(looking, courseId, examId)).said.parts;
  const put = (aboutId: string | null, text: string) =>
    must(remark(looking, courseId, examId, { aboutId, text })).remarkId;
  put(position?.lines[0]?.id ?? null, 'Tight, but they managed the like in the mid-course exam.');
  const settled = put(null, 'Say in the instructions that plotting instruments are allowed.');
  must(settleRemark(stage.as(stage.teacher, today - 4 * hour), courseId, examId, settled, true));
  must(signOff(stage.as(stage.colleague, today - 3 * hour), courseId, examId, true));
}

/** A test on paper in the chart room: its items with their key, not given yet. */
function chartRoomTest(stage: Stage): void {
  const { courseId, today } = stage;
  const context = stage.as(stage.teacher, today - 2 * day);
  const { examId } = must(createExam(context, courseId, { title: 'Chart room test, on paper', offScreen: true }));
  let { edit } = must(openExam(context, courseId, examId));
  const change = (one: ItemChange) => {
    edit = must(changeExamItems(context, courseId, examId, { edit, change: one })).edit;
  };
  const set = (from: number, to: number, type: ItemType, points: number): ItemChange => ({
    do: 'set',
    from,
    to,
    type,
    choices: 4,
    start: 'A',
    points,
  });
  change(set(1, 24, 'single-choice', 1));
  change(set(25, 28, 'true-false', 0.5));
  change(set(29, 34, 'numeric', 2));
  change(set(35, 36, 'written', 5));
  change({ do: 'label', from: 29, to: 36, prefix: 'B', first: 1 });
  change({
    do: 'keys',
    from: 1,
    text: 'BADCC ABDDA CBBAD CDABC DBCA TFFT 054±1 3.2±0.1 231±1 12.4±0.2 0.8±0.05 14',
  });
}

const complete = 'Complete and in a sensible order.';
const missing = 'Several steps are missing; compare with the model answer.';

/** Marks a share of the answers to each written question, by the marker, with points that follow what was written. */
function markAll(stage: Stage, sittingId: string, at: number, share: number): void {
  const context = stage.as(stage.marker, at);
  for (const row of must(markingQueue(context, stage.courseId)).filter((one) => one.sittingId === sittingId)) {
    const { heads } = must(answersToMark(context, stage.courseId, sittingId, row.questionId));
    const ids = heads.map((head) => head.slotId);
    const kept = [complete, missing].map((text) => must(keepComment(context, stage.courseId, row.questionId, text)));
    const answers = must(moreAnswers(context, stage.courseId, sittingId, ids));
    answers.slice(0, Math.floor(answers.length * share)).forEach((one, i) => {
      const words = one.text.split(/\s+/).length;
      const points = Math.min(
        one.outOf,
        Math.max(0, Math.round((words / 75) * one.outOf * 2 + stage.random.below(2)) / 2),
      );
      const comment = points >= one.outOf * 0.85 ? complete : points < one.outOf * 0.5 ? missing : '';
      must(
        giveMark(stage.as(stage.marker, at + i * minute), stage.courseId, one.slotId, {
          points,
          comment,
          used: kept.flatMap((own) => (own.text === comment ? [own.id] : [])),
          revision: one.revision,
          before: null,
        }),
      );
    });
  }
}

function publishAll(stage: Stage, sittingId: string, at: number, showAtOnce = false): void {
  const context = stage.as(stage.teacher, at);
  const { ready } = publishingNumbers(must(sittingResults(context, stage.courseId, sittingId)).rows);
  must(publishReady(context, stage.courseId, sittingId, { expected: ready, showAtOnce }));
}
