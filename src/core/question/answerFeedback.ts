import { isEmptyRich, type Rich } from '../base/rich';

/** A word of feedback to an answer, and what of the answer it is about; empty where it is about the whole. */
export type AnswerFeedback = { about: string; said: Rich };

/** Feedback about something, where there is any. */
export const feedbackAbout = (about: string, said: Rich | undefined): AnswerFeedback[] =>
  said && !isEmptyRich(said) ? [{ about, said }] : [];
