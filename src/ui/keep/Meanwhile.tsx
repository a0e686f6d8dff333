import type { ReactNode } from 'react';

/** What somebody else has saved of the same settings since they were begun here, beside what was entered. */
export function Meanwhile({ places }: { places: readonly { name: string; theirs: ReactNode }[] }) {
  if (places.length === 0) return null;
  return (
    <div role="status" className="border-l-[3px] border-saffron bg-saffron-wash px-3 py-2">
      <p>Somebody else has saved this otherwise since you began. What you entered stands here; saved is now:</p>
      <dl className="mt-1 grid grid-cols-[auto_1fr] gap-x-3">
        {places.map((place) => (
          <div key={place.name} className="contents">
            <dt className="text-ink-2">{place.name}</dt>
            <dd className="min-w-0">{place.theirs}</dd>
          </div>
        ))}
      </dl>
    </div>
  );
}
