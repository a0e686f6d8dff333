import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { beforeAll, describe, expect, it } from 'vitest';
import { everyQuestion } from '@/core/bank/questionFilter';
import type { Result } from '@/core/base/result';
import { minute } from '@/core/base/time';
import { audit } from '@/db/schema';
import { decideAside, seeAside } from '../attempt/aside';
import { listBanks } from '../bank/banks';
import {
  createCategory,
  deleteCategory,
  emptyCategoryInto,
  moveCategory,
  renameCategory,
  seeCategories,
} from '../bank/categories';
import { copyQuestions } from '../bank/copyQuestions';
import { giveUpDraft, keepDraft } from '../bank/drafts';
import { editMany } from '../bank/editMany';
import { bankHealth } from '../bank/health';
import { storeMedia } from '../bank/media';
import { alignQuestion, createObjective } from '../bank/objectives';
import { listPassages, questionsOfPassage, savePassage } from '../bank/passages';
import { ownPoints, setUsualPoints } from '../bank/points';
import { listQuestions } from '../bank/questionList';
import { createQuestion, openQuestion, retireQuestion, saveQuestion } from '../bank/questions';
import { dropFilter, saveFilter } from '../bank/savedFilters';
import { bringIn, previewFile, previewText, takeOut } from '../bringIn/bringIn';
import { desk } from '../desk/desk';
import { attachDocument } from '../exam/examDocument';
import { lookThroughQuestions, writeForExam } from '../exam/examQuestions';
import { choosableQuestions, createExam, listExams, openExam, saveExam } from '../exam/exams';
import { changeExamItems, openItems } from '../exam/items';
import { archiveExam, duplicateExam, labelExam } from '../exam/keepExams';
import { askForLook, openLook, remark, settleRemark, withdrawLook } from '../exam/looks';
import { paperOfStudent } from '../exam/paperOfStudent';
import { rehearsalBeginning, rehearsalMaterial } from '../exam/rehearsalMaterial';
import { examRevisions, takeUpRevision } from '../exam/revisions';
import { samplePaper } from '../exam/samplePaper';
import { openTrial, openTrialQuestion, rightAnswers, scoreTrial, trialBeginning } from '../exam/trial';
import { addColumn, moveColumn, removeColumn, saveNumbers, saveSittingBands } from '../gradebook/bookSettings';
import { cellHistory, enterCell } from '../gradebook/entries';
import {
  cancelSheets,
  printFeedback,
  sampleSheet,
  saveLayout,
  sheetsArchive,
  sheetsPage,
  sheetsState,
} from '../gradebook/feedbackSheets';
import { explained, gradebook } from '../gradebook/gradebook';
import { applyGrades, gradebookSheet, previewGrades, takeBackGrades } from '../gradebook/gradeSheets';
import { objectiveResults } from '../gradebook/objectiveResults';
import { tryNumbers } from '../gradebook/tryNumbers';
import { workbench } from '../gradebook/workbench';
import type { Actor, Context } from '../house/context';
import { editHouseInstructions, setHouseInstructions } from '../house/houseInstructions';
import { listOutbox } from '../house/outbox';
import { undoChange } from '../house/undo';
import { adjustMark, adjustPaper } from '../marking/adjust';
import { answersToMark, moreAnswers, papersToMark } from '../marking/answersToMark';
import { giveMark, takeBackMarks } from '../marking/giveMark';
import { answersTogether, markGroup } from '../marking/groups';
import { markingQueue } from '../marking/markingQueue';
import { marksArchive } from '../marking/offlineArchive';
import { applyMarks, previewMarks, takeBackUpload } from '../marking/offlineUpload';
import { acceptAnswer, applyRemark, previewAccept, previewRemark, takeBackRemark } from '../marking/remarking';
import { markedPaper, responsesTo } from '../marking/responses';
import { dropComment, keepComment } from '../marking/savedComments';
import { answersToSecond, giveSecondMark, moreToSecond, secondQueue, setSecondMarking } from '../marking/secondMarking';
import { secondMarkingOf, settle } from '../marking/settle';
import { cancelPrint, printedFile, printSitting, printState } from '../print/classPrint';
import { papersOfSitting, sampleForPrint } from '../print/printOrder';
import { sittingAnswers } from '../release/answerTally';
import { studentsToLookAs } from '../release/asStudent';
import { publishReady, withdrawPublished } from '../release/publish';
import { questionGrid } from '../release/questionGrid';
import { readReplies, repliesTo } from '../release/replies';
import { sittingResults } from '../release/results';
import { reviewAs } from '../release/review';
import {
  cancelReport,
  printReport,
  reportFile,
  reportState,
  reportsPage,
  sittingReport,
} from '../release/sittingReport';
import { writeToStudents } from '../release/writeToStudents';
import { arrange } from '../sitting/arrange';
import { courseCalendar } from '../sitting/calendar';
import { giveAgain } from '../sitting/copySitting';
import { addNote, addTime, handInFor, letThrough, reopen, restoreAttempt, voidAttempt } from '../sitting/invigilate';
import { keepAsUsual } from '../sitting/keepAsUsual';
import { openSitting } from '../sitting/openSitting';
import { answerReports, correct, seeReports, withdrawCorrection } from '../sitting/reports';
import { seeRoom } from '../sitting/room';
import { roomLog } from '../sitting/roomLog';
import { saveSitting } from '../sitting/saveRules';
import { acknowledge, scheduleSitting } from '../sitting/schedule';
import { createSitting, listSittings } from '../sitting/sittings';
import { watchRoom } from '../sitting/watchRoom';
import { refusal, School } from '../testing/school';
import { courseNotes, tickNote } from './courseNotes';
import { changeCourse, courseFields, seeCourse } from './courses';
import { beginNextTerm, nextTermBeginning, planNextTerm } from './nextTerm';
import { addPerson, addRoster, changePerson, listPeople, previewRoster, removePerson } from './roster';

/** Every use-case that names a course, with ids that exist, so that only permission stands in the way. */
type Call = (context: Context, courseId: string) => Result<unknown> | Promise<Result<unknown>>;
const nothing = new Uint8Array();

let school: School;
let calls: Record<string, { call: Call; mayAlso?: string[] }>;
let everybody: Record<string, Actor>;

beforeAll(() => {
  school = new School(1);
  const guest = school.add('Gina Guest', 'guest');
  const [questionId] = school.questions(3) as [string];
  const examId = school.exam([school.draw(1)]);
  const sittingId = school.sitting(examId);
  const { bankId, categoryId } = school;
  const student = school.students[0] as Actor;
  everybody = { instructor: school.teacher, marker: school.marker, guest, student, stranger: school.elsewhere.teacher };
  calls = {
    seeCourse: { call: (c, id) => seeCourse(c, id), mayAlso: ['marker', 'guest', 'student'] },
    desk: { call: (c, id) => desk(c, id), mayAlso: ['marker', 'guest', 'student'] },
    changeCourse: { call: (c, id) => changeCourse(c, id, {}) },
    listPeople: { call: (c, id) => listPeople(c, id) },
    addPerson: { call: (c, id) => addPerson(c, id, {}) },
    previewRoster: { call: (c, id) => previewRoster(c, id, '') },
    addRoster: { call: (c, id) => addRoster(c, id, '') },
    changePerson: {
      call: (c, id) => changePerson(c, id, 'nobody', { section: '', studentNumber: '', extraPercent: 0 }),
    },
    removePerson: { call: (c, id) => removePerson(c, id, 'nobody') },
    listOutbox: { call: (c, id) => listOutbox(c, id) },
    undoChange: { call: (c, id) => undoChange(c, id, 999_999) },
    listBanks: { call: (c, id) => listBanks(c, id) },
    seeCategories: { call: (c, id) => seeCategories(c, id, bankId) },
    createCategory: { call: (c, id) => createCategory(c, id, bankId, { name: '', parentId: null }) },
    renameCategory: { call: (c, id) => renameCategory(c, id, bankId, categoryId, '') },
    moveCategory: { call: (c, id) => moveCategory(c, id, bankId, categoryId, { parentId: categoryId, place: 0 }) },
    deleteCategory: { call: (c, id) => deleteCategory(c, id, bankId, categoryId) },
    createObjective: { call: (c, id) => createObjective(c, id, bankId, {}) },
    alignQuestion: { call: (c, id) => alignQuestion(c, id, bankId, questionId, ['none']) },
    listQuestions: { call: (c, id) => listQuestions(c, id, bankId, everyQuestion) },
    emptyCategoryInto: { call: (c, id) => emptyCategoryInto(c, id, bankId, categoryId, 'none') },
    editMany: { call: (c, id) => editMany(c, id, bankId, {}) },
    ownPoints: { call: (c, id) => ownPoints(c, id, bankId) },
    copyQuestions: { call: (c, id) => copyQuestions(c, id, bankId, {}, bankId) },
    saveFilter: { call: (c, id) => saveFilter(c, id, bankId, {}) },
    dropFilter: { call: (c, id) => dropFilter(c, id, bankId, 'none') },
    listPassages: { call: (c, id) => listPassages(c, id, bankId) },
    questionsOfPassage: { call: (c, id) => questionsOfPassage(c, id, bankId, 'none') },
    savePassage: { call: (c, id) => savePassage(c, id, bankId, null, {}) },
    bankHealth: { call: (c, id) => bankHealth(c, id, bankId) },
    previewText: { call: (c, id) => previewText(c, id, bankId, {}) },
    bringIn: { call: (c, id) => bringIn(c, id, bankId, {}) },
    previewFile: { call: (c, id) => previewFile(c, id, bankId, nothing) },
    storeMedia: { call: (c, id) => storeMedia(c, id, bankId, nothing) },
    takeOut: { call: (c, id) => takeOut(c, id, bankId, everyQuestion) },
    setUsualPoints: { call: (c, id) => setUsualPoints(c, id, bankId, { numeric: -1 }) },
    keepDraft: { call: (c, id) => keepDraft(c, id, bankId, {}) },
    giveUpDraft: { call: (c, id) => giveUpDraft(c, id, bankId, 'none') },
    openQuestion: { call: (c, id) => openQuestion(c, id, bankId, questionId) },
    createQuestion: { call: (c, id) => createQuestion(c, id, bankId, {}) },
    saveQuestion: { call: (c, id) => saveQuestion(c, id, bankId, questionId, {}) },
    retireQuestion: { call: (c, id) => retireQuestion(c, id, bankId, 'none') },
    listExams: { call: (c, id) => listExams(c, id), mayAlso: ['guest'] },
    openExam: { call: (c, id) => openExam(c, id, examId), mayAlso: ['guest'] },
    createExam: { call: (c, id) => createExam(c, id, { title: '' }) },
    saveExam: { call: (c, id) => saveExam(c, id, examId, {}) },
    labelExam: { call: (c, id) => labelExam(c, id, examId, {}) },
    archiveExam: { call: (c, id) => archiveExam(c, id, 'none', true) },
    duplicateExam: { call: (c, id) => duplicateExam(c, id, 'none') },
    samplePaper: { call: (c, id) => samplePaper(c, id, examId, '1') },
    openItems: { call: (c, id) => openItems(c, id, examId) },
    changeExamItems: { call: (c, id) => changeExamItems(c, id, examId, {}) },
    openTrial: { call: (c, id) => openTrial(c, id, examId, '1') },
    trialBeginning: { call: (c, id) => trialBeginning(c, id, examId) },
    openTrialQuestion: { call: (c, id) => openTrialQuestion(c, id, examId, '1', 'none') },
    rightAnswers: { call: (c, id) => rightAnswers(c, id, examId, '1') },
    scoreTrial: { call: (c, id) => scoreTrial(c, id, examId, '1', new Map()) },
    rehearsalBeginning: { call: (c, id) => rehearsalBeginning(c, id, examId) },
    attachDocument: { call: (c, id) => attachDocument(c, id, examId, { name: '', bytes: nothing }) },
    sampleForPrint: { call: (c, id) => sampleForPrint(c, id, examId, '1', true) },
    lookThroughQuestions: { call: (c, id) => lookThroughQuestions(c, id, examId) },
    writeForExam: { call: (c, id) => writeForExam(c, id, examId, { partId: 'none', bankId: 'none' }, {}) },
    rehearsalMaterial: { call: (c, id) => rehearsalMaterial(c, id, examId) },
    examRevisions: { call: (c, id) => examRevisions(c, id, examId), mayAlso: ['guest'] },
    takeUpRevision: { call: (c, id) => takeUpRevision(c, id, 'none') },
    openLook: { call: (c, id) => openLook(c, id, examId) },
    askForLook: { call: (c, id) => askForLook(c, id, examId, {}) },
    withdrawLook: { call: (c, id) => withdrawLook(c, id, examId, 'none') },
    remark: { call: (c, id) => remark(c, id, examId, {}) },
    settleRemark: { call: (c, id) => settleRemark(c, id, examId, 'none', true) },
    paperOfStudent: { call: (c, id) => paperOfStudent(c, id, sittingId, student.userId) },
    papersOfSitting: { call: (c, id) => papersOfSitting(c, id, 'none', true) },
    printState: { call: (c, id) => printState(c, id, sittingId) },
    printSitting: { call: (c, id) => printSitting(c, id, 'none', true) },
    cancelPrint: { call: (c, id) => cancelPrint(c, id, sittingId) },
    printedFile: { call: (c, id) => printedFile(c, id, sittingId) },
    giveAgain: { call: (c, id) => giveAgain(c, id, 'none', '2026-03-09') },
    sittingAnswers: { call: (c, id) => sittingAnswers(c, id, sittingId), mayAlso: ['guest'] },
    courseFields: { call: (c, id) => courseFields(c, id) },
    planNextTerm: { call: (c, id) => planNextTerm(c, id, {}) },
    beginNextTerm: { call: (c, id) => beginNextTerm(c, id, {}) },
    nextTermBeginning: { call: (c, id) => nextTermBeginning(c, id) },
    courseNotes: { call: (c, id) => courseNotes(c, id) },
    tickNote: { call: (c, id) => tickNote(c, id, 'none', true) },
    choosableQuestions: { call: (c, id) => choosableQuestions(c, id) },
    listSittings: { call: (c, id) => listSittings(c, id), mayAlso: ['guest'] },
    openSitting: { call: (c, id) => openSitting(c, id, sittingId), mayAlso: ['guest'] },
    createSitting: { call: (c, id) => createSitting(c, id, { examId: 'none' }) },
    saveSitting: { call: (c, id) => saveSitting(c, id, sittingId, {}) },
    scheduleSitting: { call: (c, id) => scheduleSitting(c, id, sittingId) },
    arrange: { call: (c, id) => arrange(c, id, sittingId, student.userId, {}) },
    acknowledge: { call: (c, id) => acknowledge(c, id, 'none', 'key') },
    keepAsUsual: { call: (c, id) => keepAsUsual(c, id, sittingId) },
    courseCalendar: { call: (c, id) => courseCalendar(c, id), mayAlso: ['guest'] },
    seeRoom: { call: (c, id) => seeRoom(c, id, sittingId) },
    roomLog: { call: (c, id) => roomLog(c, id, sittingId) },
    watchRoom: { call: (c, id) => watchRoom(c, id, sittingId) },
    addTime: { call: (c, id) => addTime(c, id, sittingId, null, 5) },
    handInFor: { call: (c, id) => handInFor(c, id, sittingId, 'none') },
    reopen: { call: (c, id) => reopen(c, id, sittingId, 'none', { minutes: 5, reason: 'x' }) },
    voidAttempt: { call: (c, id) => voidAttempt(c, id, sittingId, 'none', 'x') },
    restoreAttempt: { call: (c, id) => restoreAttempt(c, id, sittingId, 'none') },
    letThrough: { call: (c, id) => letThrough(c, id, 'none', student.userId) },
    addNote: { call: (c, id) => addNote(c, id, 'none', { kind: 'incident', userId: null, text: 'x' }) },
    seeAside: { call: (c, id) => seeAside(c, id, sittingId, student.userId) },
    decideAside: { call: (c, id) => decideAside(c, id, sittingId, { slotId: 'none', epoch: 1, sequence: 1 }, true) },
    seeReports: { call: (c, id) => seeReports(c, id, sittingId) },
    correct: { call: (c, id) => correct(c, id, sittingId, 'none', 'x') },
    withdrawCorrection: { call: (c, id) => withdrawCorrection(c, id, sittingId, 'none') },
    answerReports: { call: (c, id) => answerReports(c, id, sittingId, 'none', 'x') },
    editHouseInstructions: { call: (c, id) => editHouseInstructions(c, id) },
    setHouseInstructions: { call: (c, id) => setHouseInstructions(c, id, {}) },
    markingQueue: { call: (c, id) => markingQueue(c, id), mayAlso: ['marker'] },
    answersToMark: { call: (c, id) => answersToMark(c, id, sittingId, questionId), mayAlso: ['marker'] },
    giveMark: { call: (c, id) => giveMark(c, id, 'none', {}), mayAlso: ['marker'] },
    papersToMark: { call: (c, id) => papersToMark(c, id, sittingId), mayAlso: ['marker'] },
    moreAnswers: { call: (c, id) => moreAnswers(c, id, sittingId, []), mayAlso: ['marker'] },
    answersTogether: { call: (c, id) => answersTogether(c, id, sittingId, questionId, 1), mayAlso: ['marker'] },
    markGroup: { call: (c, id) => markGroup(c, id, {}), mayAlso: ['marker'] },
    takeBackMarks: { call: (c, id) => takeBackMarks(c, id, 'none'), mayAlso: ['marker'] },
    keepComment: { call: (c, id) => keepComment(c, id, questionId, 'Good.'), mayAlso: ['marker'] },
    dropComment: { call: (c, id) => dropComment(c, id, 'none'), mayAlso: ['marker'] },
    responsesTo: { call: (c, id) => responsesTo(c, id, sittingId, questionId) },
    markedPaper: { call: (c, id) => markedPaper(c, id, sittingId, student.userId) },
    secondMarkingOf: { call: (c, id) => secondMarkingOf(c, id, sittingId) },
    setSecondMarking: { call: (c, id) => setSecondMarking(c, id, sittingId, null) },
    settle: { call: (c, id) => settle(c, id, 'none', {}) },
    secondQueue: { call: (c, id) => secondQueue(c, id), mayAlso: ['marker'] },
    answersToSecond: { call: (c, id) => answersToSecond(c, id, sittingId, questionId), mayAlso: ['marker'] },
    moreToSecond: { call: (c, id) => moreToSecond(c, id, sittingId, []), mayAlso: ['marker'] },
    giveSecondMark: { call: (c, id) => giveSecondMark(c, id, 'none', {}), mayAlso: ['marker'] },
    marksArchive: { call: (c, id) => marksArchive(c, id, sittingId), mayAlso: ['marker'] },
    previewMarks: { call: (c, id) => previewMarks(c, id, sittingId, nothing), mayAlso: ['marker'] },
    applyMarks: { call: (c, id) => applyMarks(c, id, sittingId, nothing, ''), mayAlso: ['marker'] },
    takeBackUpload: { call: (c, id) => takeBackUpload(c, id, 'none'), mayAlso: ['marker'] },
    adjustMark: { call: (c, id) => adjustMark(c, id, 'none', {}) },
    adjustPaper: { call: (c, id) => adjustPaper(c, id, 'none', {}) },
    previewRemark: { call: (c, id) => previewRemark(c, id, questionId, { policy: 'everyone' }) },
    applyRemark: { call: (c, id) => applyRemark(c, id, questionId, {}) },
    takeBackRemark: { call: (c, id) => takeBackRemark(c, id, 'none') },
    previewAccept: { call: (c, id) => previewAccept(c, id, questionId, { text: 'x' }) },
    acceptAnswer: { call: (c, id) => acceptAnswer(c, id, questionId, {}) },
    sittingResults: { call: (c, id) => sittingResults(c, id, sittingId), mayAlso: ['guest'] },
    questionGrid: { call: (c, id) => questionGrid(c, id, sittingId), mayAlso: ['guest'] },
    sittingReport: { call: (c, id) => sittingReport(c, id, sittingId, 'class') },
    reportsPage: { call: (c, id) => reportsPage(c, id, sittingId) },
    printReport: { call: (c, id) => printReport(c, id, sittingId, 'students') },
    reportState: { call: (c, id) => reportState(c, id, sittingId) },
    cancelReport: { call: (c, id) => cancelReport(c, id, sittingId) },
    reportFile: { call: (c, id) => reportFile(c, id, sittingId) },
    writeToStudents: { call: (c, id) => writeToStudents(c, id, sittingId, {}) },
    publishReady: { call: (c, id) => publishReady(c, id, sittingId, { expected: 0 }) },
    withdrawPublished: { call: (c, id) => withdrawPublished(c, id, 'none') },
    gradebook: { call: (c, id) => gradebook(c, id) },
    explained: { call: (c, id) => explained(c, id, student.userId) },
    cellHistory: { call: (c, id) => cellHistory(c, id, sittingId, student.userId) },
    enterCell: { call: (c, id) => enterCell(c, id, sittingId, student.userId, { points: 1, before: 0 }) },
    saveNumbers: { call: (c, id) => saveNumbers(c, id, { rules: { decimals: 9 } }) },
    saveSittingBands: { call: (c, id) => saveSittingBands(c, id, 'none', null) },
    addColumn: { call: (c, id) => addColumn(c, id, { title: '', worth: 1 }) },
    removeColumn: { call: (c, id) => removeColumn(c, id, 'none', true) },
    moveColumn: { call: (c, id) => moveColumn(c, id, 'none', 0) },
    tryNumbers: { call: (c, id) => tryNumbers(c, id, {}) },
    workbench: { call: (c, id) => workbench(c, id, sittingId) },
    objectiveResults: { call: (c, id) => objectiveResults(c, id) },
    gradebookSheet: { call: (c, id) => gradebookSheet(c, id, { format: 'csv', names: true }) },
    previewGrades: { call: (c, id) => previewGrades(c, id, nothing) },
    applyGrades: { call: (c, id) => applyGrades(c, id, nothing, '') },
    sheetsPage: { call: (c, id) => sheetsPage(c, id, sittingId) },
    saveLayout: { call: (c, id) => saveLayout(c, id, {}) },
    sampleSheet: { call: (c, id) => sampleSheet(c, id, sittingId, student.userId, {}) },
    printFeedback: { call: (c, id) => printFeedback(c, id, sittingId, {}) },
    sheetsState: { call: (c, id) => sheetsState(c, id, sittingId) },
    cancelSheets: { call: (c, id) => cancelSheets(c, id, sittingId) },
    sheetsArchive: { call: (c, id) => sheetsArchive(c, id, sittingId) },
    takeBackGrades: { call: (c, id) => takeBackGrades(c, id, 'none') },
    reviewAs: {
      call: (c, id) =>
        reviewAs(c, id, sittingId, { userId: student.userId, at: c.now, number: null, published: false }),
    },
    studentsToLookAs: { call: (c, id) => studentsToLookAs(c, id, sittingId) },
    repliesTo: { call: (c, id) => repliesTo(c, id, sittingId) },
    readReplies: { call: (c, id) => readReplies(c, id, sittingId) },
  };
});

describe('every use-case of a course', () => {
  it('lets exactly those in whom the policy names; a stranger learns not even that the course exists', async () => {
    const wrong: string[] = [];
    for (const [name, { call, mayAlso = [] }] of Object.entries(calls)) {
      for (const [role, actor] of Object.entries(everybody)) {
        const answer = refusal(await call(school.as(actor, minute), school.courseId));
        const admitted = role === 'instructor' || mayAlso.includes(role);
        if (role === 'stranger' && answer !== 'not-found') wrong.push(`${name} as ${role}: ${answer}`);
        else if (role !== 'stranger' && admitted === (answer === 'not-allowed'))
          wrong.push(`${name} as ${role}: ${answer}`);
      }
    }
    expect(wrong).toEqual([]);
  });

  it('stands in this list', () => {
    // What only others of the server ask, after they have admitted somebody; and the sign-off, which is for whoever was
    // asked to look and for nobody else (looks.test.ts).
    const notOfItsOwn = [
      'admit',
      'admitToBank',
      'admitToExam',
      'admitToLook',
      'drawnSample',
      'gatherOffline',
      'looksWaiting',
      'markableSittings',
      'openReports',
      'questionPage',
      'signOff',
      'waitingForMarks',
    ];
    const server = fileURLToPath(new URL('..', import.meta.url));
    const files = readdirSync(server, { recursive: true, encoding: 'utf8' }).filter(
      (name) => /(?<!\.test)\.ts$/.test(name) && !name.startsWith('testing'),
    );
    const declared = files.flatMap((name) =>
      [
        ...readFileSync(join(server, name), 'utf8').matchAll(
          /export (?:async )?(?:function|const) (\w+)(?: = (?:async )?)?\(\s*context: Context,\s*courseId: string/g,
        ),
      ].map((match) => match[1] as string),
    );
    expect(declared.length).toBeGreaterThan(100);
    expect([...new Set(declared)].sort()).toEqual([...Object.keys(calls), ...notOfItsOwn].sort());
  });

  it('does not find the things of one course through another', async () => {
    const other = school.as(school.elsewhere.teacher, minute);
    const byId = [
      'seeCategories',
      'listQuestions',
      'editMany',
      'copyQuestions',
      'listPassages',
      'bankHealth',
      'previewText',
      'bringIn',
      'takeOut',
      'emptyCategoryInto',
      'giveUpDraft',
      'openQuestion',
      'retireQuestion',
      'openExam',
      'archiveExam',
      'duplicateExam',
      'samplePaper',
      'openItems',
      'changeExamItems',
      'openTrial',
      'openLook',
      'askForLook',
      'examRevisions',
      'paperOfStudent',
      'giveAgain',
      'sittingAnswers',
      'openSitting',
      'scheduleSitting',
      'acknowledge',
      'seeRoom',
      'roomLog',
      'addTime',
      'handInFor',
      'reopen',
      'voidAttempt',
      'letThrough',
      'addNote',
      'seeAside',
      'decideAside',
      'seeReports',
      'correct',
      'answerReports',
      'sittingResults',
      'publishReady',
      'explained',
      'cellHistory',
      'enterCell',
      'reviewAs',
      'studentsToLookAs',
      'repliesTo',
      'answersToMark',
      'renameCategory',
      'deleteCategory',
      'alignQuestion',
      'storeMedia',
      'previewFile',
      'attachDocument',
      'rightAnswers',
      'scoreTrial',
      'questionGrid',
      'sittingReport',
      'reportsPage',
      'printReport',
      'writeToStudents',
      'workbench',
      'sheetsPage',
      'sampleSheet',
      'printFeedback',
      'sheetsArchive',
      'marksArchive',
      'previewMarks',
      'printedFile',
    ];
    for (const name of byId) {
      const { call } = calls[name] as { call: Call };
      const answer = refusal(await call(other, school.elsewhere.courseId));
      expect([name, ['not-found', 'bad-input'].includes(answer)]).toEqual([name, true]);
    }
  });

  it('has changed nothing by all these refused tries', () => {
    const actions = school.db
      .select()
      .from(audit)
      .all()
      .filter((row) => row.at === school.as(school.teacher, minute).now && row.actorId !== school.teacher.userId);
    expect(actions).toEqual([]);
  });
});
