import { Link } from '../kit/Link';

const views = [
  { key: 'results', name: 'By student' },
  { key: 'questions', name: 'By question' },
  { key: 'summary', name: 'For the wall' },
  { key: 'answers', name: 'Who chose what' },
] as const;

/** The ways to look at the results of a sitting. */
export const ResultViews = ({ here, now }: { here: string; now: (typeof views)[number]['key'] }) => (
  <nav aria-label="Ways to look at the results" className="mb-4 flex flex-wrap gap-5 border-b border-line">
    {views.map((view) => (
      <Link
        key={view.key}
        href={view.key === 'results' || view.key === 'answers' ? `${here}/${view.key}` : `${here}/results/${view.key}`}
        aria-current={view.key === now ? 'page' : undefined}
        className="-mb-px border-b-2 border-transparent py-1 aria-[current]:border-prussian aria-[current]:font-medium"
      >
        {view.name}
      </Link>
    ))}
  </nav>
);
