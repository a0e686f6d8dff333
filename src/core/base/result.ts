/**
 * What went wrong: `code` for programs, `message` for a person, and no program reads the message. `field` names the input
 * it belongs to (a path such as `choices.2.content`), so that a screen can put the message where it is mended.
 *
 * `signed-out`: nobody is signed in, or somebody else than the one whose page asks; what was asked can be asked again.
 * `other-kind`: a file of another kind than was asked for, perhaps of one that another reader knows.
 */
export type Problem = {
  code:
    | 'bad-input'
    | 'other-kind'
    | 'not-found'
    | 'not-allowed'
    | 'conflict'
    | 'too-late'
    | 'too-early'
    | 'superseded'
    | 'signed-out'
    | 'busy';
  message: string;
  field?: string;
};

/** Either a value or the reasons why there is none. Use-cases return it; nothing expected is thrown. */
export type Result<T> = { ok: true; value: T } | { ok: false; problems: Problem[] };

/**
 * A result that carries a value.
 *
 * @example ok(3).value // 3
 */
export const ok = <T>(value: T): Result<T> => ({ ok: true, value });

/**
 * A result that carries one problem.
 *
 * @param field the field that it belongs to, by its path with dots; without one it is about the whole
 */
export const refused = (
  code: Problem['code'],
  message: string,
  field?: string,
): { ok: false; problems: Problem[] } => ({
  ok: false,
  problems: [field === undefined ? { code, message } : { code, message, field }],
});

/** The one answer to ids that are unknown, foreign or hidden: it never tells which of the three it was. */
export const notFound = (what: string) => refused('not-found', `There is no such ${what}.`);
