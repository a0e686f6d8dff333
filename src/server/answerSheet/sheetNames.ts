import { codeLengths, codeName } from '@/core/answerSheet/sheetCode';
import { seededRandom } from '@/core/base/random';
import type { Db } from '@/db/client';
import { newId } from '../house/context';
import { installationSecret } from '../house/installation';

/** The signs by which a printed code names this installation. They say nothing of its secret. */
export const installationSigns = (db: Db): string =>
  codeName(codeLengths.installation, seededRandom(installationSecret(db), 'answer sheets').below);

/** New signs for a layout. */
export const newLayoutId = (): string => codeName(codeLengths.layout, seededRandom(newId(), 'layout').below);

/** What a sheet is called that is nobody's. */
export const sheetName = (copy: number): string => `Sheet ${copy}`;
