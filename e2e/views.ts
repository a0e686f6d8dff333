import { and, asc, eq, isNotNull, isNull } from 'drizzle-orm';
import { instructors, marker } from '../demo/people';
import type { Db } from '../src/db/client';
import {
  attempt,
  exam,
  mark,
  membership,
  paperSlot,
  publication,
  question,
  round,
  sitting,
  user,
} from '../src/db/schema';
import { phone, type Size } from './browser';

/** A main view of the app over the demo: whose it is, where it stands, and what has to be there before it is looked at. */
export type View = {
  name: string;
  /** The email of who sees it; null before signing in. */
  who: string | null;
  path: string;
  size?: Size;
  /** A selector of what appears last. */
  ready?: string;
};

/** Every main view over a database that holds the demo. */
export function mainViews(db: Db): View[] {
  const teacher = instructors[0]?.email ?? '';
  const titled = (title: string) => db.select().from(sitting).where(eq(sitting.title, title)).get();
  const course = `/c/${db.select().from(sitting).get()?.courseId}`;
  const sittingAt = (title: string) => `${course}/sittings/${titled(title)?.id}`;
  const examId = (title: string) => db.select().from(exam).where(eq(exam.title, title)).get()?.id;
  const named = (shortName: string) => db.select().from(question).where(eq(question.shortName, shortName)).get();
  const chosen = named('Isophase');
  const bank = `${course}/banks/${chosen?.bankId}`;
  const theory = `${course}/exams/${examId('Final theory exam')}`;
  const onPaper = examId('Chart room test, on paper');
  const trial = (id: string | undefined) => `/trial${course.slice(2)}/${id}`;
  const running = db
    .select({ id: attempt.id, email: user.email, sittingId: attempt.sittingId })
    .from(attempt)
    .innerJoin(user, eq(user.id, attempt.userId))
    .where(eq(attempt.state, 'running'))
    .get();
  const readable = db
    .select({ id: attempt.id, email: user.email })
    .from(publication)
    .innerJoin(attempt, and(eq(attempt.sittingId, publication.sittingId), eq(attempt.userId, publication.userId)))
    .innerJoin(user, eq(user.id, attempt.userId))
    .get();
  // Papers are drawn: who missed a question, of which a card is made, is looked up.
  const missing = db
    .select({ email: user.email })
    .from(mark)
    .innerJoin(paperSlot, eq(paperSlot.id, mark.slotId))
    .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
    .innerJoin(publication, and(eq(publication.sittingId, attempt.sittingId), eq(publication.userId, attempt.userId)))
    .innerJoin(user, eq(user.id, attempt.userId))
    .where(
      and(
        eq(attempt.sittingId, titled('Mid-course theory exam')?.id ?? ''),
        eq(mark.kind, 'automatic'),
        eq(mark.points, 0),
        isNull(mark.takenBackAt),
      ),
    )
    // Of a school made larger those who were there before, whose passwords are known.
    .orderBy(asc(user.createdAt), asc(user.email))
    .get();
  const waiting = db
    .select({ email: user.email })
    .from(membership)
    .innerJoin(user, eq(user.id, membership.userId))
    .leftJoin(attempt, and(eq(attempt.userId, user.id), eq(attempt.sittingId, running?.sittingId ?? '')))
    .where(and(eq(membership.role, 'student'), isNull(attempt.id)))
    .get();
  const written = `${course}/marking/${titled('Passage-planning paper')?.id}`;
  const marked = db
    .select({ userId: attempt.userId })
    .from(attempt)
    .where(and(eq(attempt.sittingId, titled('Passage-planning paper')?.id ?? ''), eq(attempt.state, 'handed-in')))
    .get();
  const keoni = db.select().from(user).where(eq(user.email, 'keoni.kahananui@ternpoint.example')).get();

  const led = db.select({ id: round.sittingId }).from(round).where(isNotNull(round.led)).get();
  const ledRound = `${course}/rounds/${led?.id}`;
  const staff: Omit<View, 'who'>[] = [
    { name: 'desk', path: course },
    { name: 'account', path: '/account' },
    {
      name: 'bank',
      path: `${bank}?category=${chosen?.categoryId}&question=${chosen?.id}`,
      ready: '[role=textbox]',
    },
    { name: 'bank, filtered', path: `${bank}?type=numeric` },
    { name: 'gap-fill sheet', path: `${bank}?begin=gap-fill`, ready: '[role=textbox]' },
    { name: 'health', path: `${bank}/health` },
    { name: 'bring in', path: `${bank}/bring-in` },
    { name: 'done lately', path: `${course}/done` },
    { name: 'retired questions', path: `${bank}?retired=yes` },
    { name: 'passages', path: `${bank}/passages?passage=new` },
    { name: 'banks', path: `${course}/banks?list=yes` },
    { name: 'bank settings', path: `${bank}/settings` },
    { name: 'exams', path: `${course}/exams` },
    { name: 'exam plan', path: theory, ready: '[role=textbox]' },
    { name: 'sample paper', path: `${theory}/sample` },
    { name: 'rehearsal', path: `${theory}/rehearsal` },
    { name: 'revisions', path: `${theory}/revisions` },
    { name: 'new question', path: `${theory}/new-question` },
    { name: 'trial', path: trial(examId('Final theory exam')), ready: 'article' },
    {
      name: 'off-screen exam',
      path: `${course}/exams/${onPaper}`,
      ready: '[data-answer] [aria-checked=true]',
    },
    { name: 'answer sheet', path: trial(onPaper), size: phone, ready: 'ol[aria-label="Items"]' },
    { name: 'next term', path: `${course}/people/next-term` },
    { name: 'course', path: `${course}/people/course` },
    { name: 'new course', path: '/new-course' },
    { name: 'notes', path: `${course}/people/notes` },
    { name: 'a student’s paper', path: `${sittingAt('Mid-course theory exam')}/papers/${keoni?.id}` },
    { name: 'sittings', path: `${course}/sittings` },
    { name: 'rounds', path: `${course}/rounds` },
    { name: 'a round', path: ledRound },
    { name: 'a round afterwards', path: `${ledRound}/after` },
    { name: 'names and the roster', path: `${ledRound}/names` },
    { name: 'who needs another lesson', path: `${ledRound}/groups?by=objective` },
    { name: 'made-up handsets', path: `${ledRound}/handsets` },
    { name: 'wall', path: `/wall/${ledRound.split('/')[2]}/${ledRound.split('/').at(-1)}` },
    { name: 'a draft of a sitting', path: sittingAt('Final theory exam') },
    { name: 'in the room', path: `${sittingAt('Steering-rules quiz')}/room` },
    { name: 'reported questions', path: `${sittingAt('Steering-rules quiz')}/reports` },
    { name: 'print', path: `${sittingAt('Mid-course theory exam')}/print` },
    { name: 'answer sheets on paper', path: `${sittingAt('Final theory exam, Weekday')}/answer-sheets` },
    { name: 'sheets looked through', path: `${sittingAt('Quiz on paper')}/answer-sheets/review` },
    {
      name: 'answers typed in',
      path: `${sittingAt('Quiz on paper')}/answer-sheets/type`,
      ready: 'input[aria-label^="Row 1"]',
    },
    { name: 'before the camera', path: `${sittingAt('Quiz on paper')}/answer-sheets/camera`, size: phone },
    { name: 'answers', path: `${sittingAt('Mid-course theory exam')}/answers` },
    { name: 'sitting', path: sittingAt('Final theory exam, Weekday') },
    { name: 'results', path: `${sittingAt('Mid-course theory exam')}/results` },
    { name: 'results by question', path: `${sittingAt('Mid-course theory exam')}/results/questions` },
    { name: 'for the wall', path: `${sittingAt('Mid-course theory exam')}/results/summary`, ready: 'canvas' },
    { name: 'as a student', path: `${sittingAt('Mid-course theory exam')}/as-student?student=${keoni?.id}` },
    { name: 'feedback sheets', path: `${sittingAt('Mid-course theory exam')}/sheets`, ready: 'article' },
    { name: 'results on paper', path: `${sittingAt('Mid-course theory exam')}/results/printed` },
    { name: 'gradebook', path: `${course}/gradebook` },
    { name: 'columns and weights', path: `${course}/gradebook/rules` },
    { name: 'bands', path: `${course}/gradebook/bands?sitting=${titled('Mid-course theory exam')?.id}` },
    { name: 'gradebook in and out', path: `${course}/gradebook/sheets` },
    { name: 'results by objective', path: `${course}/gradebook/objectives` },
    { name: 'paper by paper', path: `${written}/papers` },
    { name: 'alike answers', path: `${written}/${named('Alternatives')?.id}/together` },
    { name: 'second marker', path: `${written}/second` },
    { name: 'marking offline', path: `${written}/offline` },
    { name: 'answers to a question', path: `${written}/${named('Alternatives')?.id}/responses` },
    { name: 'mark anew', path: `${course}/marking/questions/${named('Isophase')?.id}` },
    { name: 'a marked paper', path: `${written}/students/${marked?.userId}` },
    { name: 'people', path: `${course}/people` },
    { name: 'messages', path: `${course}/people/outbox` },
  ];
  const markers: Omit<View, 'who'>[] = [
    { name: 'look', path: `${theory}/look` },
    { name: 'marking queue', path: `${course}/marking` },
    {
      name: 'marking',
      path: `${course}/marking/${titled('Passage-planning paper')?.id}/${named('Alternatives')?.id}`,
    },
  ];
  const student = { who: running?.email ?? '', size: phone };
  return [
    { name: 'sign-in', who: null, path: '/sign-in' },
    { name: 'door', who: null, size: phone, path: '/in' },
    ...staff.map((view) => ({ ...view, who: teacher })),
    ...markers.map((view) => ({ ...view, who: marker.email })),
    { name: 'my exams', ...student, path: '/my' },
    { name: 'before the start', who: waiting?.email ?? '', size: phone, path: `/my/exams/${running?.sittingId}` },
    { name: 'try-out', who: waiting?.email ?? '', size: phone, path: '/try-out' },
    { name: 'my results', ...student, path: '/my/results' },
    {
      name: 'my result',
      who: keoni?.email ?? '',
      size: phone,
      path: `/my/results/${titled('Mid-course theory exam')?.id}`,
    },
    {
      name: 'cards',
      who: missing?.email ?? '',
      size: phone,
      path: `/my/results/${titled('Mid-course theory exam')?.id}/cards`,
    },
    { name: 'receipt', who: readable?.email ?? '', size: phone, path: `/my/receipts/${readable?.id}` },
    {
      name: 'taking',
      ...student,
      path: `/take/${running?.id}`,
      ready: 'input[type=radio]:not(:disabled)',
    },
  ];
}
