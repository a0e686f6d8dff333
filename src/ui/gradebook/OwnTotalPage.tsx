import { listed } from '@/core/base/words';
import type { OwnTotal } from '@/server/gradebook/myTotal';
import { PageTitle, Sheet } from '../kit/Page';
import { TextLink } from '../kit/TextLink';

/** A student's total of a course as they see it: the number, how it was computed, and what is still to come. */
export function OwnTotalPage({ total, linked }: { total: OwnTotal; linked: boolean }) {
  return (
    <article>
      {linked ? (
        <PageTitle title={`${total.courseName}: your total`} back={{ href: '/my/results', name: 'My results' }} />
      ) : (
        <h2 className="mb-3 text-2xl">{total.courseName}: your total</h2>
      )}
      <Sheet label="Total" className="mb-4 px-5 py-4">
        <TotalNumber total={total} />
        {total.hidden.length > 0 && (
          <p className="mt-2 text-saffron">Not in it, since you do not see the score now: {listed(total.hidden, 5)}.</p>
        )}
      </Sheet>
      <h2 className="text-xl">How is this computed?</h2>
      {total.parts.map((part) => (
        <section key={part.heading} aria-label={part.heading} className="mt-3">
          <h3 className="text-lg">{part.heading}</h3>
          <ul className="tabular-nums">
            {part.lines.map((line) => (
              <li key={line} className="border-t border-line py-1.5">
                {/* A number and its sign stay on one line. */}
                {line.replaceAll(' %', '\u00a0%')}
              </li>
            ))}
          </ul>
        </section>
      ))}
      {linked && total.results.length > 0 && (
        <section aria-label="Your results" className="mt-6">
          <h2 className="text-xl">Each result, and what has changed in it</h2>
          <ul>
            {total.results.map((one) => (
              <li key={one.sittingId} className="border-t border-line py-1.5">
                <TextLink href={`/my/results/${one.sittingId}`}>{one.title}</TextLink>
              </li>
            ))}
          </ul>
        </section>
      )}
    </article>
  );
}

/** The number itself, with its band and whether more will count. */
export const TotalNumber = ({ total }: { total: Pick<OwnTotal, 'percent' | 'band' | 'soFar'> }) =>
  total.percent === '' ? (
    <p className="text-ink-2">Nothing counts yet.</p>
  ) : (
    <p className="flex flex-wrap items-baseline gap-x-4">
      <span className="text-3xl font-medium tabular-nums">{total.percent} %</span>
      {total.band && <span className="font-serif text-2xl">{total.band}</span>}
      {total.soFar && <span className="text-ink-2">so far; more is still to come</span>}
    </p>
  );
