'use client';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { Problem, Result } from '@/core/base/result';
import { type PassageNote, pointsProblem, type RubricLevels, rubricPoints } from '@/core/marking/marks';
import type { Rubric } from '@/core/question/types/written/content';
import type { AnswerBody } from '@/server/marking/answerBodies';
import type { AnswerHead, MarkingPage } from '@/server/marking/answersToMark';
import { carriedOutOnce } from '../keep/carriedOutOnce';
import { useKeeping } from '../keep/KeepingFor';
import { newOnce } from '../keep/newOnce';
import { sentUntilAnswered } from '../keep/sentUntilAnswered';
import { numberIn } from '../kit/numberIn';
import type { MarkingCommands } from './commands';

/** What is being given to an answer, as it is entered. */
export type Entered = {
  points: string;
  comment: string;
  rubric: RubricLevels;
  notes: PassageNote[];
  /** Kept comments that were put in. */
  used: string[];
};

/** A mark that was sent, and the name under which it is carried out once. */
type Sent = { once: string; given: Parameters<MarkingCommands['giveMark']>[1] };

/** A first and a second mark of the same answer are two things, also where one person tries both in one browser. */
const objectOf = (slotId: string, second: boolean) => `${second ? 'second-' : ''}mark/${slotId}`;

const isEntered = (value: unknown): value is Entered => {
  const one = value as Partial<Entered> | null;
  return typeof one?.points === 'string' && typeof one.comment === 'string' && Array.isArray(one.notes);
};

/**
 * The answers of a marking page: which have come, what was typed for each, and what is saved. What was typed and not saved
 * stays in this browser, so that leaving the page loses nothing.
 */
export function useMarking(
  page: MarkingPage,
  commands: Pick<MarkingCommands, 'giveMark' | 'moreAnswers'>,
  second = false,
) {
  /** What was given on this page; of every other answer its head says it. */
  const [given, setGiven] = useState<Record<string, number | null>>({});
  const points: Record<string, number | null> = {
    ...Object.fromEntries(page.heads.map((head) => [head.slotId, head.points])),
    ...given,
  };
  const [bodies, setBodies] = useState<Record<string, AnswerBody>>(() =>
    Object.fromEntries(page.bodies.map((body) => [body.slotId, body])),
  );
  const [typed, setTyped] = useState<Record<string, Entered>>({});
  const [problems, setProblems] = useState<Record<string, Problem[]>>({});
  const [saving, setSaving] = useState<readonly string[]>([]);
  /** The answers whose marks wait for a connection, or for their marker to sign in again. */
  const [waiting, setWaiting] = useState<readonly string[]>([]);
  const asked = useRef(new Set<string>());
  const journal = useKeeping()?.journal ?? null;
  /** @param sent what was sent of it and not answered yet */
  const keepDraft = (slotId: string, entered: Entered | null, sent: Sent | null = null) => {
    if (!entered) return journal?.forget(objectOf(slotId, second));
    const number = page.heads.find((head) => head.slotId === slotId)?.number ?? '';
    journal?.write(objectOf(slotId, second), {
      title: `A mark of answer ${number}`,
      href: location.pathname + location.search,
      base: { edit: 0, value: null },
      value: entered,
      unanswered: sent && { once: sent.once, edit: 0, value: sent.given },
    });
  };
  /** Sends a mark until it is answered: again by itself, and never twice. */
  const send = (slotId: string, name: string, mark: Sent['given']) =>
    sentUntilAnswered(
      () => carriedOutOnce(commands.giveMark, name)(slotId, mark),
      (isWaiting) =>
        setWaiting((all) => (isWaiting ? [...new Set([...all, slotId])] : all.filter((one) => one !== slotId))),
    );

  const wrongWith = (slotId: string, all: Problem[] | null) =>
    setProblems(({ [slotId]: _, ...others }) => (all ? { ...others, [slotId]: all } : others));
  const forget = (slotId: string) => {
    keepDraft(slotId, null);
    setTyped(({ [slotId]: _, ...others }) => others);
  };
  const resumed = useRef(new Set<string>());
  /** A mark of an earlier visit was answered. */
  const arrived = (slotId: string, mark: Sent['given'], answer: Result<{ markId: number }>) => {
    if (!answer.ok) return wrongWith(slotId, answer.problems);
    forget(slotId);
    setGiven((all) => ({ ...all, [slotId]: mark.points }));
    setBodies((all) => {
      const body = all[slotId];
      const { points, comment, rubric, notes } = mark;
      return body
        ? {
            ...all,
            [slotId]: {
              ...body,
              points,
              comment,
              rubric: rubric ?? {},
              notes: notes ?? [],
              markId: answer.value.markId,
            },
          }
        : all;
    });
  };
  const latest = useRef({ send, arrived });
  latest.current = { send, arrived };

  // Only the browser knows what was typed before: it is read once the page is there.
  useEffect(() => {
    const kept = page.heads.flatMap(({ slotId }) => {
      const draft = journal?.read(objectOf(slotId, second))?.value;
      return isEntered(draft) ? [[slotId, draft] as const] : [];
    });
    if (kept.length) setTyped((before) => ({ ...Object.fromEntries(kept), ...before }));
    // What had been saved and never answered is sent again.
    for (const [slotId] of kept) {
      const unanswered = journal?.read(objectOf(slotId, second))?.unanswered;
      if (!unanswered || resumed.current.has(slotId)) continue;
      resumed.current.add(slotId);
      const mark = unanswered.value as Sent['given'];
      void latest.current
        .send(slotId, unanswered.once, mark)
        .then((answer) => latest.current.arrived(slotId, mark, answer));
    }
  }, [page.heads, second, journal]);

  const bring = useCallback(
    async (heads: readonly AnswerHead[]) => {
      const lacking = heads.map((head) => head.slotId).filter((id) => !bodies[id] && !asked.current.has(id));
      if (lacking.length === 0) return;
      for (const id of lacking) asked.current.add(id);
      const answer = await commands.moreAnswers(lacking).catch(() => null);
      if (answer?.ok)
        setBodies((before) => ({ ...Object.fromEntries(answer.value.map((one) => [one.slotId, one])), ...before }));
      else for (const id of lacking) asked.current.delete(id);
    },
    [bodies, commands],
  );

  const storedOf = (body: AnswerBody): Entered => ({
    points: body.points === null ? '' : String(Math.round(body.points * 100) / 100),
    comment: body.comment,
    rubric: body.rubric,
    notes: body.notes,
    used: [],
  });
  const enteredOf = (body: AnswerBody): Entered => typed[body.slotId] ?? storedOf(body);
  const enter = (body: AnswerBody, part: Partial<Entered>) => {
    const next = { ...enteredOf(body), ...part };
    keepDraft(body.slotId, next);
    setTyped((before) => ({ ...before, [body.slotId]: next }));
    wrongWith(body.slotId, null);
  };

  /** What would be saved, or null where it cannot be: then it is said at its field. */
  const judged = (body: AnswerBody, rubricOf: Rubric | null): number | null => {
    const entered = enteredOf(body);
    const typedPoints = numberIn(entered.points);
    const wrong = (message: string) => {
      wrongWith(body.slotId, [{ code: 'bad-input', field: 'points', message }]);
      return null;
    };
    if (entered.points.trim() === '' || !Number.isFinite(typedPoints)) return wrong('Type the points as a number.');
    const problem = pointsProblem(typedPoints, body.outOf);
    if (problem) return wrong(problem);
    const made = rubricOf && rubricPoints(rubricOf, entered.rubric, body.outOf);
    return made !== null && Math.abs(made - typedPoints) <= 0.005 ? made : typedPoints;
  };

  /**
   * Saves what is entered. The answer counts as marked at once, so that whoever types fast is not held up; where the server
   * refuses, it waits again, what was typed is still there, and it is said which.
   *
   * @param rubricOf the rubric of the question: points that were not typed anew are saved as it makes them, unrounded
   * @returns the points, or null where they cannot be saved; and whether they have been, later
   */
  const save = (body: AnswerBody, rubricOf: Rubric | null): { value: number; saved: Promise<boolean> } | null => {
    const value = judged(body, rubricOf);
    if (value === null || saving.includes(body.slotId)) return null;
    const { slotId, revision, markId } = body;
    const entered = enteredOf(body);
    const { comment, rubric, notes, used } = entered;
    const before = points[slotId] ?? null;
    wrongWith(slotId, null);
    setSaving((all) => [...all, slotId]);
    setGiven((all) => ({ ...all, [slotId]: value }));
    const given = { points: value, comment, rubric, notes, used, revision, before: markId };
    const name = newOnce();
    keepDraft(slotId, entered, { once: name, given });
    const saved = (async () => {
      const answer = await send(slotId, name, given);
      setSaving((all) => all.filter((one) => one !== slotId));
      if (!answer.ok) {
        setGiven((all) => ({ ...all, [slotId]: before }));
        wrongWith(slotId, answer.problems);
        return false;
      }
      // What was typed meanwhile into the same answer stays typed.
      setTyped((all) => {
        if (all[slotId] !== undefined && all[slotId] !== entered) return all;
        keepDraft(slotId, null);
        const { [slotId]: _, ...others } = all;
        return others;
      });
      setBodies((all) => ({
        ...all,
        [slotId]: { ...body, points: value, comment, rubric, notes, markId: answer.value.markId },
      }));
      return true;
    })();
    return { value, saved };
  };

  return {
    points,
    bodies,
    bring,
    enteredOf,
    enter,
    forget,
    save,
    saving,
    waiting,
    isTyped: (slotId: string) => slotId in typed,
    /** The answers for which something was typed and not saved. */
    typed: Object.keys(typed),
    problemsOf: (slotId: string) => problems[slotId] ?? [],
    /** The answers that the server refused, and why. */
    refused: Object.entries(problems),
  };
}
