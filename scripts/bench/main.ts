import { sheetAccuracy, sheetPrint, sheetRead } from './answerSheets';
import { attemptStories } from './attemptStories';
import { autosaveHttp } from './autosaveHttp';
import { bankSearch } from './bankSearch';
import { drawBalanced } from './drawBalanced';
import { drawPapers } from './drawPapers';
import { generateValues } from './generateValues';
import { gradebookCompute } from './gradebookCompute';
import { gradebookPage } from './gradebookPage';
import { gradebookType } from './gradebookType';
import { hostileHeartbeat } from './hostileHeartbeat';
import { importLayouts } from './importLayouts';
import { keepCost } from './keepCost';
import { markingGroup } from './markingGroup';
import { markingPage } from './markingPage';
import { duplicates } from './nearDuplicates';
import { pagesSlowest } from './pages';
import { examPlanCheck } from './planCheck';
import { rehearsalRun } from './rehearsal';
import { remarkPreview } from './remarkPreview';
import { roomLive } from './roomLive';
import { roundFanout, roundGrid, roundJoin } from './rounds';
import { scorePapers } from './scorePapers';
import { sheetsPdf } from './sheetsPdf';
import { signinBurst } from './signinBurst';
import { sitLoad } from './sitLoad';
import { startBurst } from './startBurst';
import { takingWeight } from './takingWeight';

const figures: Record<string, () => void | Promise<void>> = {
  'draw.papers': drawPapers,
  'draw.balanced': drawBalanced,
  'attempt.stories': attemptStories,
  'rehearsal.run': rehearsalRun,
  'exam.plancheck': examPlanCheck,
  'score.papers': scorePapers,
  'variables.generate': generateValues,
  'bank.search': bankSearch,
  'bank.duplicates': duplicates,
  'import.layouts': importLayouts,
  'keep.cost': keepCost,
  'autosave.http': autosaveHttp,
  'start.burst': startBurst,
  'signin.burst': signinBurst,
  'sit.load': sitLoad,
  'hostile.heartbeat': hostileHeartbeat,
  'room.live': roomLive,
  'round.fanout': roundFanout,
  'round.grid': roundGrid,
  'round.join': roundJoin,
  'taking.weight': takingWeight,
  'marking.group': markingGroup,
  'marking.page': markingPage,
  'remarking.preview': remarkPreview,
  'gradebook.compute': gradebookCompute,
  'gradebook.page': gradebookPage,
  'gradebook.type': gradebookType,
  'sheets.pdf': sheetsPdf,
  'sheet.read': sheetRead,
  'sheet.accuracy': sheetAccuracy,
  'sheet.print': sheetPrint,
  'pages.slowest': pagesSlowest,
};

const wanted = process.argv.slice(2).filter((word) => !word.startsWith('--'));
const unknown = wanted.filter((name) => !(name in figures));
if (unknown.length) {
  console.error(`There is no figure ${unknown.join(', ')}. Known: ${Object.keys(figures).join(', ')}.`);
  process.exit(2);
}
for (const [name, measure] of Object.entries(figures))
  if (wanted.length === 0 || wanted.includes(name)) await measure();
