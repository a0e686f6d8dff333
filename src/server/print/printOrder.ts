import { readFile } from 'node:fs/promises';
import sharp from 'sharp';
import { z } from 'zod';
import { ok, type Result } from '@/core/base/result';
import { layOutPrint, picturesOn } from '@/core/exam/layOutPrint';
import type { PrintedPaper } from '@/core/exam/printedPaper';
import type { PrintOrder } from '@/core/print/printOrder';
import { mediaFile } from '../bank/media';
import { drawSample, sampleSeed } from '../exam/drawnSample';
import { toLook } from '../exam/toLook';
import { command, query } from '../house/useCase';
import { toSitting } from '../sitting/toSitting';
import { printer } from './printApart';
import { paperForEveryone, studentPapers } from './studentPapers';

/** A sample paper for printing. */
export const sampleForPrint = query({
  admits: toLook,
  takes: [sampleSeed, z.boolean()],
  does(look, seed, withKey): Result<PrintedPaper> {
    const drawn = drawSample(look, seed);
    if (!drawn.ok) return drawn;
    const { title, design, slots, passages } = drawn.value;
    return ok(layOutPrint({ title, student: null, code: `Sample paper ${seed}`, withKey }, design, slots, passages));
  },
});

/** A sample paper as PDF. */
export const printSample = query({
  admits: toLook,
  takes: [sampleSeed, z.boolean()],
  async does({ context, courseId, examId }, seed, withKey): Promise<Result<{ bytes: Uint8Array; name: string }>> {
    const found = sampleForPrint(context, courseId, examId, seed, withKey);
    if (!found.ok) return found;
    const { title, code } = found.value;
    const printed = await printer.print(await orderOf([found.value])).bytes;
    return ok({ bytes: printed, name: `${title}, ${code}${withKey ? ', with key' : ''}.pdf` });
  },
});

/**
 * Every student's own paper of a scheduled sitting, ready to be printed, {@link studentPapers} says which; of an anonymous
 * one the paper that is the same for everyone.
 */
export const papersOfSitting = command({
  admits: toSitting('sitting.change'),
  takes: [z.boolean()],
  unlogged: 'printing stands in the log by itself',
  does({ tx, sitting, context }, withKey): Result<PrintedPaper[]> {
    if (sitting.anonymous) {
      const found = paperForEveryone(tx, context, sitting);
      if (!found.ok) return found;
      const { code, design, sources } = found.value.paper;
      return ok([
        layOutPrint({ title: sitting.title, student: '', code, withKey }, design, sources, found.value.passages),
      ]);
    }
    const papers = studentPapers(tx, context, sitting);
    if (!papers.ok) return papers;
    return ok(
      papers.value.papers.map(({ student, code, design, sources }) =>
        layOutPrint(
          { title: sitting.title, student: student.name, code, withKey },
          design,
          sources,
          papers.value.passages,
        ),
      ),
    );
  },
});

/** The widest a printed picture needs to be, in dots. */
const widest = 1_600;

/** Papers with the pictures on them, ready for the printer. A picture that is gone is printed as its words. */
export async function orderOf(papers: PrintedPaper[]): Promise<Extract<PrintOrder, { papers: unknown }>> {
  return { papers, pictures: await picturesFor(picturesOn(papers)) };
}

/** Pictures by their hashes, as they are printed. */
export async function picturesFor(hashes: Iterable<string>): Promise<PrintOrder['pictures']> {
  const pictures: PrintOrder['pictures'] = {};
  for (const hash of hashes) {
    const file = await readFile(mediaFile(hash)).catch(() => null);
    if (!file) continue;
    const { data, info } = await sharp(file)
      .resize({ width: widest, withoutEnlargement: true })
      .png()
      .toBuffer({ resolveWithObject: true });
    pictures[hash] = { data, width: info.width, height: info.height };
  }
  return pictures;
}
