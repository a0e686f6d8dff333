import { giveUpReading, leaveSheetPagesOut, nameSheetPage, settleSheetRow } from './answerSheet/bringPages';
import { makeKeySheet } from './answerSheet/keySheets';
import {
  answerSheetsPrint,
  cancelAnswerSheets,
  lookAtSheets,
  printAnswerSheets,
} from './answerSheet/printAnswerSheets';
import { cancelFilling, fillAnswerSheets, filledState } from './answerSheet/standIn';
import { previewSheets, takeSheets } from './answerSheet/takeSheets';
import { beginTyping, typeSheet } from './answerSheet/typeIn';
import { openTrial, openTrialQuestion, rightAnswers, scoreTrial } from './attempt/trial';
import { openTryOut, scoreTryOut } from './attempt/tryOut';
import { beginBank, giveUpBank, renameBank, takeUpBank } from './bank/banks';
import { createCategory, deleteCategory, emptyCategoryInto, moveCategory, renameCategory } from './bank/categories';
import { copyQuestions } from './bank/copyQuestions';
import { giveUpDraft, keepDraft } from './bank/drafts';
import { editMany } from './bank/editMany';
import { createObjective } from './bank/objectives';
import { dropPassage, listPassages, savePassage } from './bank/passages';
import { setUsualPoints } from './bank/points';
import { listQuestions } from './bank/questionList';
import { createQuestion, openQuestion, retireQuestion, saveQuestion } from './bank/questions';
import { dropFilter, saveFilter } from './bank/savedFilters';
import { bringIn } from './bringIn/bringIn';
import { previewText } from './bringIn/preview';
import { lookThroughQuestions, writeForExam } from './exam/examQuestions';
import { choosableQuestions, countPool, createExam, openExam, saveExam } from './exam/exams';
import { changeExamItems } from './exam/items';
import { archiveExam, duplicateExam, labelExam } from './exam/keepExams';
import { askForLook, remark, settleRemark, signOff, withdrawLook } from './exam/looks';
import { addColumn, moveColumn, removeColumn, saveNumbers, saveSittingBands } from './gradebook/bookSettings';
import { cellHistory, enterCell, enterCells } from './gradebook/entries';
import { cancelSheets, printFeedback, sampleSheet, saveLayout, sheetsState } from './gradebook/feedbackSheets';
import { explained, gradebookSince } from './gradebook/gradebook';
import { settingsHistory } from './gradebook/settingsHistory';
import { withOtherNumbers } from './gradebook/withOtherNumbers';
import { adjustMark, adjustPaper } from './marking/adjust';
import { moreAnswers } from './marking/answersToMark';
import { giveMark } from './marking/giveMark';
import { markGroup } from './marking/groups';
import { acceptAnswer, applyRemarking, oldKeyPapers, previewAccept } from './marking/remarking';
import { dropComment, keepComment } from './marking/savedComments';
import { giveSecondMark, moreToSecond, setSecondMarking } from './marking/secondMarking';
import { settle } from './marking/settle';
import { changePassword, chooseSignInName, endOtherSessions, endSession } from './people/account';
import { changePerson } from './people/changePerson';
import { tickNote } from './people/courseNotes';
import { changeCourse, createCourse } from './people/courses';
import { inviteAgain, letTryAgain } from './people/invitations';
import { bringBack, removePerson } from './people/leaving';
import { setNameOrder } from './people/nameOrder';
import { offerAgain, withdrawOffer } from './people/offers';
import { addPerson, addRoster, previewRoster } from './people/roster';
import { setHouseInstructions, setKeeper } from './people/schoolInstructions';
import { typePeople } from './people/typePeople';
import { cancelPrint, printSitting, printState } from './print/classPrint';
import { publishReady, withdrawPublished } from './release/publish';
import { answerReply, readReplies, replyToFeedback } from './release/replies';
import { noteSeen } from './release/resultsSeen';
import { openOnce } from './release/review';
import { cancelReport, printReport, reportState } from './release/sittingReport';
import { writeToStudents } from './release/writeToStudents';
import { decideAside, seeKeptAside } from './room/asideAnswers';
import {
  addNote,
  addTime,
  beforeReopening,
  handInFor,
  letThrough,
  reopen,
  restoreAttempt,
  settleIncident,
  voidAttempt,
} from './room/invigilate';
import { answerReports, correct, reportQuestion, withdrawCorrection } from './room/reportedQuestions';
import { groupToSection, seeGroups } from './round/after';
import { beginRound, changeRound } from './round/beginRound';
import { changeDoor } from './round/doors';
import { bringHandsets } from './round/handsets';
import { walkThrough } from './round/lead';
import { askAnother, askNow, giveKey } from './round/onTheSpot';
import { matchNames, renameDevice, sendOut } from './round/people';
import { arrange, makeUp } from './sitting/arrange';
import { giveAgain } from './sitting/copySitting';
import { keepAsUsual } from './sitting/keepAsUsual';
import { saveSitting } from './sitting/saveRules';
import { acknowledge, scheduleSitting } from './sitting/schedule';
import { createSitting } from './sitting/sittings';
import { takeUpRevision } from './sitting/takeUpRevision';
import { callOffSitting, redraftSitting, removeSitting } from './sitting/withdrawSitting';
import { beginNextTerm, planNextTerm } from './term/nextTerm';
import { undoChange } from './undoChange';

/**
 * What a page in the browser may ask for by name, beside the addresses of an attempt and of files. Each is admitted and
 * reads what was sent by itself, whoever asks; a use-case that is not named here cannot be reached by its name.
 */
export const served = {
  changePassword,
  chooseSignInName,
  endOtherSessions,
  endSession,
  bringBack,
  inviteAgain,
  letTryAgain,
  offerAgain,
  oldKeyPapers,
  setKeeper,
  setNameOrder,
  withdrawOffer,
  acceptAnswer,
  acknowledge,
  callOffSitting,
  redraftSitting,
  removeSitting,
  beforeReopening,
  settleIncident,
  addColumn,
  addNote,
  addPerson,
  addRoster,
  addTime,
  adjustMark,
  adjustPaper,
  answerReports,
  applyRemarking,
  archiveExam,
  arrange,
  askForLook,
  beginBank,
  beginNextTerm,
  bringIn,
  cancelPrint,
  cancelReport,
  cancelSheets,
  cellHistory,
  changeCourse,
  changeExamItems,
  changePerson,
  typePeople,
  choosableQuestions,
  copyQuestions,
  correct,
  countPool,
  createCategory,
  createCourse,
  createExam,
  createObjective,
  createQuestion,
  createSitting,
  decideAside,
  deleteCategory,
  dropComment,
  dropFilter,
  dropPassage,
  duplicateExam,
  editMany,
  emptyCategoryInto,
  enterCell,
  enterCells,
  settingsHistory,
  explained,
  gradebookSince,
  giveAgain,
  giveMark,
  giveSecondMark,
  giveUpBank,
  giveUpDraft,
  handInFor,
  keepAsUsual,
  keepComment,
  keepDraft,
  labelExam,
  letThrough,
  listPassages,
  listQuestions,
  lookThroughQuestions,
  makeUp,
  markGroup,
  moreAnswers,
  moreToSecond,
  moveCategory,
  moveColumn,
  noteSeen,
  openOnce,
  openExam,
  openQuestion,
  openTrial,
  openTrialQuestion,
  openTryOut,
  planNextTerm,
  previewAccept,
  previewRoster,
  previewText,
  printFeedback,
  printReport,
  printSitting,
  printState,
  publishReady,
  readReplies,
  remark,
  removeColumn,
  removePerson,
  renameBank,
  renameCategory,
  reopen,
  replyToFeedback,
  answerReply,
  reportQuestion,
  reportState,
  restoreAttempt,
  retireQuestion,
  rightAnswers,
  sampleSheet,
  saveExam,
  saveFilter,
  saveLayout,
  saveNumbers,
  savePassage,
  saveQuestion,
  saveSitting,
  saveSittingBands,
  scheduleSitting,
  scoreTrial,
  scoreTryOut,
  seeKeptAside,
  setHouseInstructions,
  setSecondMarking,
  setUsualPoints,
  settle,
  settleRemark,
  sheetsState,
  signOff,
  takeUpRevision,
  tickNote,
  withOtherNumbers,
  takeUpBank,
  undoChange,
  voidAttempt,
  withdrawCorrection,
  withdrawLook,
  withdrawPublished,
  writeForExam,
  writeToStudents,
  askAnother,
  askNow,
  beginRound,
  bringHandsets,
  changeDoor,
  changeRound,
  giveKey,
  groupToSection,
  matchNames,
  renameDevice,
  seeGroups,
  sendOut,
  walkThrough,
  answerSheetsPrint,
  cancelFilling,
  fillAnswerSheets,
  filledState,
  cancelAnswerSheets,
  giveUpReading,
  leaveSheetPagesOut,
  lookAtSheets,
  nameSheetPage,
  previewSheets,
  printAnswerSheets,
  settleSheetRow,
  takeSheets,
  beginTyping,
  typeSheet,
  makeKeySheet,
};

export type Served = typeof served;
