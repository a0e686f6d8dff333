import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import type { Thing } from '@/core/base/id';
import type { Result } from '@/core/base/result';
import { richFromText } from '@/core/base/rich';
import { hour, minute } from '@/core/base/time';
import { policy, type Role } from '@/core/people/policy';
import { openDatabase } from '@/db/client';
import { openExam } from '../exam/exams';
import type { Actor, Context } from '../house/context';
import type { AnyUseCase } from '../house/useCase';
import { printer } from '../print/printApart';
import { handsetSender } from '../round/handsets';
import { sheetsAsUsual } from '../testing/paperSheets';
import { sampleOf, turnsOf } from '../testing/sampleOf';
import { begins, choiceContent, must, refusal, School } from '../testing/school';
import { fillWorld, type World } from '../testing/world';

vi.spyOn(printer, 'print').mockImplementation(() => ({
  bytes: Promise.resolve(new Uint8Array()),
  end: () => undefined,
}));
vi.spyOn(handsetSender, 'send').mockImplementation(() => undefined);
afterAll(() => vi.restoreAllMocks());

const folder = mkdtempSync(join(tmpdir(), 'wuzzen-permissions-'));
vi.stubEnv('WUZZEN_DATA', folder);
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** Every use-case there is, by the name under which its file gives it. */
const modules = import.meta.glob<Record<string, unknown>>(['../**/*.ts', '!../**/*.test.ts', '!../testing/**'], {
  eager: true,
});
const isUseCase = (one: unknown): one is AnyUseCase =>
  typeof one === 'function' && 'door' in one && 'takes' in one && 'kind' in one;
const declared = Object.entries(modules).flatMap(([file, exports]) =>
  Object.entries(exports).flatMap(([name, one]) => (isUseCase(one) ? [{ file, name, one }] : [])),
);
const useCases = new Map(declared.map(({ name, one }) => [name, one]));

/** What the schemas cannot tell by themselves: contents that hang together. */
const examples: Record<string, (world: World, context: Context) => unknown[]> = {
  createQuestion: ({ ids }) => [{ ...question(ids.category), content: choiceContent('New') }],
  saveQuestion: ({ ids }) => [ids.question, { ...question(ids.category), content: choiceContent('New'), edit: 1 }],
  writeForExam: ({ ids }) => [
    { partId: ids.part, bankId: ids.bank },
    { ...question(ids.category), content: choiceContent('New') },
  ],
  bringIn: ({ ids }) => [{ categoryId: ids.category, items: [{ content: choiceContent('New') }] }],
  savePassage: ({ ids }) => [ids.passage, { shortName: 'New', content: richFromText('New') }],
  saveExam: ({ ids }, context) => {
    const { title, design, edit } = must(openExam(context, ids.course, ids.exam));
    return [{ title, design, edit }];
  },
  lookAtSheets: () => sheets,
  printAnswerSheets: () => sheets,
  fillAnswerSheets: () => [...sheets, 'copier'],
};
const sheets = [sheetsAsUsual];
const question = (categoryId: string) => ({ categoryId, shortName: '', difficulty: null, points: 1 });

/** Which action each use-case asks for, and where: read by eye, so that no use-case asks for less than it should. */
const asked = `
  bank.change courseId bankId: alignQuestion bringIn createCategory createObjective createQuestion deleteCategory dropPassage editMany emptyCategoryInto giveUpBank giveUpDraft keepDraft moveCategory newQuestion previewFile previewText renameBank renameCategory retireQuestion savePassage saveQuestion setUsualPoints storeMedia
  bank.change courseId: banksElsewhere beginBank takeUpBank
  bank.see courseId bankId: bankHealth bankLabels copyQuestions dropFilter listFilters listPassages listQuestions openQuestion ownPoints questionsOfPassage saveFilter seeCategories takeOut
  bank.see courseId: listBanks
  course.create: createCourse
  course.create courseId: editHouseInstructions setHouseInstructions setKeeper
  course.see courseId: desk seeCourse setNameOrder
  exam.change courseId examId: archiveExam askForLook attachDocument changeExamItems countPool duplicateExam keySheets labelExam lookThroughQuestions makeKeySheet openItems printedKeySheet rehearsalBeginning rehearsalMaterial saveExam withdrawLook writeForExam
  exam.change courseId sittingId: keepAsUsual
  exam.change courseId: choosableQuestions createExam
  exam.look courseId examId: openLook openTrial openTrialQuestion printSample remark rightAnswers sampleForPrint samplePaper scoreTrial settleRemark signOff trialBeginning
  exam.see courseId examId: examRevisions openExam
  exam.see courseId: listExams
  gradebook.change courseId sittingId: saveSittingBands
  gradebook.change courseId: addColumn applyGrades enterCell enterCells moveColumn previewGrades removeColumn saveNumbers
  gradebook.see courseId: cellHistory explained gradebook gradebookSheet gradebookSince objectiveResults settingsHistory totalAs withOtherNumbers workbench
  marking.change courseId sittingId: markedPaper responsesTo secondMarkingOf setSecondMarking
  marking.change courseId: acceptAnswer adjustMark adjustPaper applyRemarking oldKeyPapers previewAccept previewRemarking remarkingOutcomes settle
  marking.mark courseId sittingId: answersToMark answersToSecond answersTogether applyMarks marksArchive moreAnswers moreToSecond papersToMark previewMarks
  marking.mark courseId: doneLately dropComment giveMark giveSecondMark keepComment markGroup markingQueue secondQueue takeBackMarks undoChange
  what it is: beforeStart changePassword chooseSignInName endOtherSessions endSession openAnswerFile openDocument openMedia openReturnedFile openSheet openSheetPiece openTryOut ownAccount scoreTryOut
  people.change courseId: addPerson addRoster beginNextTerm bringBack changeCourse changePerson courseFields courseNotes inviteAgain letTryAgain nextTermBeginning offerAgain planNextTerm previewRoster removePerson tickNote typePeople withdrawOffer
  people.change courseId roundId: groupToSection
  people.see courseId: listOutbox listPeople
  people.see courseId roundId: seeGroups
  results.publish courseId roundId: matchNames seeMatching
  results.see courseId roundId: seeAfter
  sitting.change courseId roundId: askAnother changeRound giveKey
  sitting.invigilate courseId roundId: bringHandsets leadRound renameDevice seeHandsets seeHeldBack seeRound seeWall sendOut stopRound walkThrough watchRound watchWall
  sitting.take roundId: seeOwnRound watchOwnRound
  results.publish courseId sittingId: answerReply cancelReport cancelSheets printFeedback printReport publishReady readReplies repliesTo reportFile reportState reportsPage reviewAs sampleSheet sheetsArchive sheetsPage sheetsState sittingReport studentsToLookAs withdrawPublished writeToStudents
  results.publish courseId: saveLayout
  results.see courseId sittingId: questionGrid sittingAnswers sittingResults
  results.see-own courseId: myTotal
  results.see-own sittingId: myReview noteSeen openOnce replyToFeedback
  sitting.change courseId sittingId: acknowledge answerSheetsPrint arrange beginTyping bringSheetPage callOffSitting cancelAnswerSheets cancelFilling cancelPrint fillAnswerSheets filledSheets filledState giveAgain giveUpReading leaveSheetPagesOut lookAtSheets makeUp nameSheetPage paperOfStudent papersOfSitting previewSheets printAnswerSheets printSitting printState printedAnswerSheets printedFile redraftSitting removeSitting saveSitting scheduleSitting seeReading settleSheetRow sheetsToRead takeSheets takeUpRevision typeSheet
  sitting.change courseId: askNow beforeRound beginRound changeDoor createSitting
  sitting.invigilate courseId sittingId attemptId: beforeReopening handInFor reopen restoreAttempt voidAttempt
  sitting.invigilate courseId sittingId: addNote addTime answerReports correct decideAside letThrough questionsOnPapers roomLog seeKeptAside seeReports seeRoom settleIncident watchRoom withdrawCorrection
  sitting.see courseId sittingId: openSitting
  sitting.see courseId: askedOverRounds courseCalendar listRounds listSittings
  sitting.take attemptId: checkQuestion goOnward handIn lookAtPulse mayGoOn openForWriting openTimedQuestion pulse reportQuestion seeReceipt takeAgain takeAnswerFile watchAttempt
  sitting.take sittingId: startAttempt
`;

let image: Buffer;
let home: World;
/** Marks in the course, and was given nothing to mark. */
let idle: Actor;
let foreign: World;
let actors: Record<'instructor' | 'marker' | 'guest' | 'student' | 'stranger', Actor>;

beforeAll(() => {
  const school = new School(0);
  home = fillWorld(school, 'HOMEWORD');
  foreign = fillWorld(school.elsewhereAsSchool(), 'ELSEWHERE');
  const guest = school.add('Gina Guest', 'guest');
  idle = school.add('Ida Idle', 'marker');
  actors = {
    instructor: school.teacher,
    marker: home.marker,
    guest,
    student: home.student,
    stranger: school.elsewhere.teacher,
  };
  image = school.db.$client.serialize();
});

/** The same school anew for each call: what one changes, the next does not find. */
const anew = (actor: Actor): Context => ({ db: openDatabase(image), actor, now: begins + hour + minute });

/** Every row of every table as text, without the log of what was refused. */
function rowsOf({ db }: Context): Set<string> {
  const tables = db.$client
    .prepare("select name from sqlite_master where type = 'table' and name not like 'sqlite_%'")
    .pluck()
    .all() as string[];
  return new Set(
    tables.flatMap((table) =>
      db.$client
        .prepare(`select * from "${table}"`)
        .all()
        .map((row) => `${table} ${JSON.stringify(row)}`)
        .filter((row) => !row.includes('"action":"refused.')),
    ),
  );
}

/** What is sent to a use-case: the ids of its door, then a sample of what it takes. */
function argumentsOf(name: string, one: AnyUseCase, world: World, context: Context, turn = 0): unknown[] {
  const door = one.door.ids.map((id) => world.ids[id.replace(/Id$/, '') as Thing]);
  if (name === 'undoChange') return [...door, world.changeId];
  const own = examples[name]?.(world, { ...context, actor: actors.instructor });
  return [...door, ...(own ?? one.takes.map((schema) => sampleOf(schema, (thing) => world.ids[thing], turn)))];
}

/** A print writes down how it ended, a little later. */
const leave = (name: string, { db }: Context) => {
  if (!name.startsWith('print')) db.$client.close();
};

const call = async (one: AnyUseCase, context: Context, sent: unknown[]): Promise<Result<unknown>> =>
  one({ ...context, files: folder }, ...sent);

describe('every use-case', () => {
  it('has one name, and one only', () => {
    const names = declared.map(({ name }) => name);
    expect(names.length).toBeGreaterThan(150);
    expect(names.filter((name, i) => names.indexOf(name) !== i)).toEqual([]);
  });

  it('asks for the action that this table says, at the place that it says', () => {
    const byDoor = new Map<string, string[]>();
    for (const [name, { door }] of useCases) {
      const where = [door.action ?? 'what it is', ...door.ids].join(' ');
      byDoor.set(where, [...(byDoor.get(where) ?? []), name]);
    }
    expect([...byDoor].map(([where, names]) => `${where}: ${names.sort().join(' ')}`).sort()).toEqual(
      asked.trim().split(/\n\s*/).sort(),
    );
  });

  it('is sent here what its schemas read, so that nothing but permission stands in the way', () => {
    const wrong: string[] = [];
    for (const [name, one] of useCases)
      for (let turn = 0; turn < Math.max(1, ...one.takes.map(turnsOf)); turn++) {
        const sent = argumentsOf(name, one, home, anew(actors.instructor), turn).slice(one.door.ids.length);
        one.takes.forEach((schema, i) => {
          const read = schema.safeParse(sent[i]);
          if (!read.success)
            wrong.push(`${name} ${i}: ${read.error.issues[0]?.path.join('.')} ${read.error.issues[0]?.message}`);
        });
      }
    expect(wrong).toEqual([]);
  });

  it('lets exactly those in whom the policy names; a stranger learns not even that the course exists', async () => {
    const wrong: string[] = [];
    for (const [name, one] of useCases) {
      const { action, ids } = one.door;
      if (action === null || ids[0] !== 'courseId') continue;
      for (const [role, actor] of Object.entries(actors)) {
        const context = anew(actor);
        const sent = argumentsOf(name, one, home, context);
        const before = rowsOf(context);
        const answer = refusal(await call(one, context, sent));
        const { roles, onlyOwn } = policy[action];
        // The marker has been given the sitting, and was asked to look; the guest was not.
        const own = role === 'marker' && (action === 'marking.mark' || action === 'exam.look');
        const may =
          roles.includes(role as Role) &&
          (!onlyOwn?.includes(role as Role) || own) &&
          // The second marker and the colleague who signs off are one person each; what is undone asks for its own action.
          name !== 'undoChange' &&
          !name.includes('Second') &&
          name !== 'signOff';
        if (role === 'stranger' && answer !== 'not-found') wrong.push(`${name} as ${role}: ${answer}`);
        else if (role !== 'stranger' && may && answer === 'not-allowed') wrong.push(`${name} as ${role}: ${answer}`);
        else if (role !== 'stranger' && !roles.includes(role as Role) && answer !== 'not-allowed')
          wrong.push(`${name} as ${role}: ${answer}`);
        if (answer === 'not-allowed' || role === 'stranger') {
          const after = rowsOf(context);
          if (after.size !== before.size || [...after].some((row) => !before.has(row)))
            wrong.push(`${name} as ${role} was refused and has written`);
        }
        leave(name, context);
      }
    }
    expect(wrong).toEqual([]);
  });

  it('neither shows nor changes anything of another course, whatever id of it is named', async () => {
    const wrong: string[] = [];
    let tried = 0;
    for (const [name, one] of useCases) {
      const actor = one.door.ids[0] === 'courseId' || one.door.ids.length === 0 ? actors.instructor : actors.student;
      for (let turn = 0; turn < Math.max(1, ...one.takes.map(turnsOf)); turn++) {
        const base = JSON.stringify(argumentsOf(name, one, home, anew(actor), turn));
        // Each id that stands in what is sent is put in the other course's place, one at a time; the course itself last.
        for (const [thing, id] of Object.entries(home.ids)) {
          // Parts and lines are named by the browser that made them.
          if (thing === 'part' || !base.includes(`"${id}"`)) continue;
          const theirs = foreign.ids[thing as Thing];
          const context = anew(actor);
          const before = rowsOf(context);
          const sent = JSON.parse(base.replaceAll(`"${id}"`, `"${theirs}"`)) as unknown[];
          const bytes = argumentsOf(name, one, home, context, turn).map((was, i) =>
            was instanceof Uint8Array ? was : sent[i],
          );
          const answer = await call(one, context, bytes);
          tried += 1;
          const said = answer.ok ? (JSON.stringify(answer.value) ?? '') : '';
          if (said.includes('ELSEWHERE')) wrong.push(`${name} shows ${thing}`);
          const after = rowsOf(context);
          const theirsBefore = [...before].filter((row) => row.includes('ELSEWHERE') || row.includes(theirs));
          if (theirsBefore.some((row) => !after.has(row))) wrong.push(`${name} changes ${thing}`);
          // The log may say what was asked for.
          const fresh = [...after].filter((row) => !before.has(row) && !row.startsWith('audit '));
          if (fresh.some((row) => row.includes(theirs))) wrong.push(`${name} ties itself to ${thing}`);
          if (!answer.ok && fresh.length) wrong.push(`${name} was refused for ${thing} and has written`);
          leave(name, context);
        }
      }
    }
    expect(tried).toBeGreaterThan(400);
    expect(wrong).toEqual([]);
  });

  it('fails on no id that is unknown or no id at all, and writes nothing under it', async () => {
    const odd: unknown[] = ['aaaaaaaaaaaaaaaaaaaaa', 'x'.repeat(61), { $ne: 1 }, "' or 1=1 --\u0000"];
    const wrong: string[] = [];
    const before = rowsOf(anew(actors.instructor));
    let tried = 0;
    for (const [name, one] of useCases) {
      const actor = one.door.ids[0] === 'courseId' || one.door.ids.length === 0 ? actors.instructor : actors.student;
      const sent = argumentsOf(name, one, home, anew(actor));
      const base = JSON.stringify(sent);
      for (const [thing, id] of Object.entries(home.ids)) {
        if (thing === 'part' || !base.includes(`"${id}"`)) continue;
        // Where something is done is text by the time a door is asked (`app/ask.ts`).
        const isPlace = one.door.ids.includes(`${thing}Id`);
        const instead = odd[tried++ % odd.length] ?? '';
        if (isPlace && typeof instead !== 'string') continue;
        const context = anew(actor);
        // What stands as a name of a property can be no other thing than text.
        const inPlace = new RegExp(`"${id}"(?!:)`, 'g');
        const changed = JSON.parse(base.replace(inPlace, () => JSON.stringify(instead))) as unknown[];
        const answer = await call(
          one,
          context,
          sent.map((was, i) => (was instanceof Uint8Array ? was : changed[i])),
        ).catch((why: unknown) => why as Error);
        if (answer instanceof Error) {
          wrong.push(`${name} fails on ${thing}: ${answer.message}`);
          continue;
        }
        const fresh = [...rowsOf(context)].filter((row) => !before.has(row) && !row.startsWith('audit '));
        if (!answer.ok && fresh.length) wrong.push(`${name} was refused for ${thing} and has written`);
        const written = JSON.stringify(instead).slice(1, 20);
        if (fresh.some((row) => row.includes(written))) wrong.push(`${name} writes under ${thing}`);
        leave(name, context);
      }
    }
    expect(tried).toBeGreaterThan(300);
    expect(wrong).toEqual([]);
  });

  it('fails on nothing that was taken out, taken back, withdrawn or archived', async () => {
    const gone = openDatabase(image);
    const columns = gone.$client
      .prepare(
        "select m.name as 'table', c.name as 'column' from sqlite_master m join pragma_table_info(m.name) c where m.type = 'table' and c.name in ('removed_at', 'taken_back_at', 'withdrawn_at', 'archived_at', 'retired_at', 'used_at')",
      )
      .all() as { table: string; column: string }[];
    expect(columns.length).toBeGreaterThan(5);
    const staff = [actors.instructor, actors.marker, actors.guest].map((one) => `'${one.userId}'`).join();
    for (const { table, column } of columns)
      gone.$client.exec(
        `update "${table}" set "${column}" = ${begins}${table === 'membership' ? ` where user_id not in (${staff})` : ''}`,
      );
    const after = gone.$client.serialize();
    gone.$client.close();
    const wrong: string[] = [];
    const before = rowsOf({ ...anew(actors.instructor), db: openDatabase(after) });
    for (const [name, one] of useCases)
      for (const who of ['instructor', 'student'] as const) {
        const context = { ...anew(actors[who]), db: openDatabase(after) };
        const sent = argumentsOf(name, one, home, anew(actors.instructor));
        const answer = await call(one, context, sent).catch((why: unknown) => why as Error);
        if (answer instanceof Error) wrong.push(`${name} as ${who} fails: ${answer.message}`);
        else if (!answer.ok && [...rowsOf(context)].some((row) => !before.has(row)))
          wrong.push(`${name} as ${who} was refused and has written`);
        leave(name, context);
      }
    expect(wrong).toEqual([]);
  });

  it('shows and changes nothing of a sitting to a marker to whom it was not given', async () => {
    const wrong: string[] = [];
    for (const [name, one] of useCases) {
      if (one.door.action !== 'marking.mark') continue;
      const context = anew(idle);
      const before = rowsOf(context);
      const answer = await call(one, context, argumentsOf(name, one, home, context));
      if (answer.ok && JSON.stringify(answer.value).includes('HOMEWORD')) wrong.push(`${name} shows it`);
      if ([...rowsOf(context)].some((row) => !before.has(row))) wrong.push(`${name} changes it`);
      leave(name, context);
    }
    expect(wrong).toEqual([]);
  });
});
