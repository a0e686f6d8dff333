import { isEmptyRich, richText } from '../base/rich';
import { noUsualRules } from '../sitting/lastingRules';
import { type ExamDesign, type ExamLine, usualPurpose } from './design';
import { chooseSaid, hardSaid, lineSaid, type Names, pagesSaid, purposeSaid, usualSaid, worthSaid } from './designSaid';

/** One change between two revisions, in words, and the part it is about; null for the exam as a whole. */
export type DesignChange = { part: string | null; says: string };

const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);

/**
 * What changed from one revision of an exam to another, in words and in the order of the later one: what is new, what is
 * gone, what says something else, what stands elsewhere. Nothing where both draw and look alike.
 */
export function designDifference(before: ExamDesign, after: ExamDesign, names: Names): DesignChange[] {
  const changes: DesignChange[] = [];
  const whole = (says: string) => changes.push({ part: null, says });
  const from = (was: string, is: string) => `${is}; before: ${was}`;
  const [was, is] = [before.purpose ?? usualPurpose, after.purpose ?? usualPurpose];
  if (!same(was, is)) whole(`What it is for: ${from(purposeSaid(was), purposeSaid(is))}.`);
  if ((before.pages ?? 'each') !== (after.pages ?? 'each'))
    whole(`Pages: ${from(pagesSaid[before.pages ?? 'each'], pagesSaid[after.pages ?? 'each'])}.`);
  if (before.choices !== after.choices)
    whole(`Choices: ${after.choices ? 'never shuffled' : 'shuffled where their question allows it'}.`);
  if ((before.labels ?? 'A') !== (after.labels ?? 'A'))
    whole(`Labels of choices: ${from(before.labels ?? 'A', after.labels ?? 'A')}.`);
  if (before.worth !== after.worth) whole(`Worth: ${from(worthSaid(before.worth), worthSaid(after.worth))}.`);
  if (hardSaid(before) !== hardSaid(after)) whole(`Equally hard papers: ${from(hardSaid(before), hardSaid(after))}.`);
  if (richText(before.instructions) !== richText(after.instructions))
    whole(isEmptyRich(after.instructions) ? 'The instructions are gone.' : 'The instructions are changed.');
  else if (!same(before.instructions, after.instructions)) whole('The form of the instructions is changed.');
  const [usualBefore, usualAfter] = [before.usual ?? noUsualRules, after.usual ?? noUsualRules];
  if (!same(usualBefore, usualAfter))
    whole(`Usually given with ${from(usualSaid(usualBefore), usualSaid(usualAfter))}.`);
  if (!same(before.targets ?? [], after.targets ?? [])) whole('The targets of the plan are changed.');

  const [paperBefore, paperAfter] = [before.offScreen?.document, after.offScreen?.document];
  if (paperBefore?.hash !== paperAfter?.hash)
    whole(paperAfter ? `The paper is the document ${paperAfter.name}.` : 'The paper is no longer attached.');
  if ((paperBefore?.shown ?? false) !== (paperAfter?.shown ?? false))
    whole(`Students ${paperAfter?.shown ? 'see' : 'do not see'} the paper while they answer.`);

  const partsBefore = new Map(before.parts.map((part) => [part.id, part]));
  const linesBefore = new Map(
    before.parts.flatMap((part) => part.lines.map((line) => [line.id, { line, part }] as const)),
  );
  const linesAfter = new Set(after.parts.flatMap((part) => part.lines.map((line) => line.id)));
  const kept = (parts: ExamDesign['parts'], others: ReadonlySet<string>) =>
    parts.map((part) => part.id).filter((id) => others.has(id));
  const [orderBefore, orderAfter] = [
    kept(before.parts, new Set(after.parts.map((part) => part.id))),
    kept(after.parts, new Set(partsBefore.keys())),
  ];
  if (!same(orderBefore, orderAfter)) whole('The parts stand in another order.');
  for (const part of after.parts) {
    const say = (says: string) => changes.push({ part: part.title, says });
    const old = partsBefore.get(part.id);
    if (!old) say('This part is new.');
    else {
      if (old.title !== part.title) say(`Its heading was ${old.title}.`);
      if (old.order !== part.order)
        say(part.order === 'shuffled' ? 'Its questions are shuffled now.' : 'Its questions keep their order now.');
      if (!same(old.choose, part.choose)) say(`Of its questions ${from(chooseSaid(old), chooseSaid(part))}.`);
    }
    const stayed = (lines: readonly ExamLine[], others: ReadonlySet<string>) =>
      lines.map((line) => line.id).filter((id) => others.has(id));
    if (old) {
      const [was, is] = [
        stayed(old.lines, new Set(part.lines.map((line) => line.id))),
        stayed(part.lines, new Set(old.lines.map((line) => line.id))),
      ];
      if (!same(was, is)) say('Its lines stand in another order.');
    }
    for (const line of part.lines) {
      const held = linesBefore.get(line.id);
      const said = lineSaid(line, names);
      if (!held) say(`New: ${said}.`);
      else {
        if (held.part.id !== part.id) say(`From ${held.part.title}: ${said}.`);
        const wasSaid = lineSaid(held.line, names);
        if (wasSaid !== said) say(`${from(wasSaid, said)}.`);
        else if (!same(held.line, line)) say(`Changed in its details: ${said}.`);
      }
    }
  }
  for (const part of before.parts)
    if (!after.parts.some((one) => one.id === part.id)) changes.push({ part: part.title, says: 'This part is gone.' });
  for (const { line, part } of linesBefore.values())
    if (!linesAfter.has(line.id)) changes.push({ part: part.title, says: `Gone: ${lineSaid(line, names)}.` });
  return changes;
}
