/** The credit of one person for one question, in [0, 1]. */
export type Observation = { person: string; question: string; credit: number };

/** Variance components of persons × questions, and what follows for one score. */
type Measurement = {
  persons: number;
  questions: number;
  /** Mean number of questions on a paper. */
  length: number;
  /** Variances of persons, of questions, and of the rest; never negative. */
  person: number;
  question: number;
  rest: number;
  /** The standard error of measurement of a score, as a share of its points. */
  error: number;
  /** Dependability Φ, in [0, 1]; null where nothing varies. */
  dependability: number | null;
};

/** Below so many persons nothing is said. */
const fewestPersons = 20;

/**
 * How exactly the scores of a sitting measure, also where every person had other questions: variance components of
 * unbalanced persons × questions by the analogue of analysis of variance. With N observations, n_p of person p, n_q of
 * question q:
 *
 *   E T(pq) = Nμ² + Nσ²p + Nσ²q + Nσ²e
 *   E T(p)  = Nμ² + Nσ²p + n_persons(σ²q + σ²e)
 *   E T(q)  = Nμ² + n_questions(σ²p + σ²e) + Nσ²q
 *   E T(μ)  = Nμ² + (Σn_p²/N)σ²p + (Σn_q²/N)σ²q + σ²e
 *
 * where T(pq) = ΣX², T(p) = Σ n_p·mean_p², T(q) = Σ n_q·mean_q², T(μ) = N·mean². Negative estimates are taken as 0.
 * Questions count the same here, whatever their points. Where all persons had the same questions, how hard these are moves
 * everybody alike, and the error is √(σ²e / n), which is SD·√(1 − α); else √((σ²q + σ²e) / n), with the mean n.
 *
 * @returns null with fewer than {@link fewestPersons} persons, or than two questions
 * @see Brennan, Generalizability Theory (2001), chapter 7; Crocker & Algina, Introduction to Classical and Modern Test
 * Theory (1986)
 */
export function measurementOf(observations: readonly Observation[]): Measurement | null {
  const N = observations.length;
  const sums = (key: 'person' | 'question') => {
    const all = new Map<string, { n: number; sum: number }>();
    for (const one of observations) {
      const own = all.get(one[key]) ?? { n: 0, sum: 0 };
      own.n += 1;
      own.sum += one.credit;
      all.set(one[key], own);
    }
    return [...all.values()];
  };
  const [persons, questions] = [sums('person'), sums('question')];
  if (persons.length < fewestPersons || questions.length < 2 || N <= persons.length) return null;
  const total = observations.reduce((sum, one) => sum + one.credit, 0);
  const Tpq = observations.reduce((sum, one) => sum + one.credit ** 2, 0);
  const between = (all: typeof persons) => all.reduce((sum, { n, sum: own }) => sum + own ** 2 / n, 0);
  const [Tp, Tq, Tm] = [between(persons), between(questions), total ** 2 / N];
  const squares = (all: typeof persons) => all.reduce((sum, { n }) => sum + n ** 2, 0) / N;
  // Tpq − Tp, Tpq − Tq and Tp − Tm in the three variances: μ falls out.
  const solved = solve3(
    [
      [0, N - persons.length, N - persons.length],
      [N - questions.length, 0, N - questions.length],
      [N - squares(persons), persons.length - squares(questions), persons.length - 1],
    ],
    [Tpq - Tp, Tpq - Tq, Tp - Tm],
  );
  if (!solved) return null;
  const [person, question, rest] = solved.map((value) => Math.max(0, value)) as [number, number, number];
  const length = N / persons.length;
  const crossed = N === persons.length * questions.length;
  const noise = crossed ? rest : question + rest;
  const absolute = person + (question + rest) / length;
  return {
    persons: persons.length,
    questions: questions.length,
    length,
    person,
    question,
    rest,
    error: Math.sqrt(noise / length),
    dependability: absolute > 0 ? person / absolute : null,
  };
}

/** Solves three linear equations by Cramer's rule; null where they do not determine anything. */
function solve3(rows: readonly (readonly number[])[], right: readonly number[]): number[] | null {
  const det = (m: readonly (readonly number[])[]) => {
    const [a, b, c] = m as [number[], number[], number[]];
    const at = (row: number[], i: number) => row[i] as number;
    return (
      at(a, 0) * (at(b, 1) * at(c, 2) - at(b, 2) * at(c, 1)) -
      at(a, 1) * (at(b, 0) * at(c, 2) - at(b, 2) * at(c, 0)) +
      at(a, 2) * (at(b, 0) * at(c, 1) - at(b, 1) * at(c, 0))
    );
  };
  const whole = det(rows);
  if (Math.abs(whole) < 1e-9) return null;
  return [0, 1, 2].map(
    (i) => det(rows.map((row, r) => row.map((value, c) => (c === i ? (right[r] as number) : value)))) / whole,
  );
}
