'use client';
import { usePathname } from 'next/navigation';
import { Link } from '../kit/Link';
import { pageWidths } from '../kit/pageWidths';
import { TextLink } from '../kit/TextLink';
import { textLook } from '../kit/textLook';
import { SignOut } from './SignOut';

const stops = [
  { href: '/my', name: 'My exams' },
  { href: '/my/results', name: 'My results' },
];

/** The slim bar of a student's pages: two stops and who one is. */
export function StudentBar({ name }: { name: string }) {
  const path = usePathname();
  return (
    <header className="border-b border-line">
      <div className={`mx-auto flex flex-wrap items-center gap-x-5 px-4 py-2 ${pageWidths.reading}`}>
        <Link href="/" className="font-serif text-lg font-semibold">
          Wuzzen
        </Link>
        <nav aria-label="Pages" className="flex gap-4">
          {stops.map((stop) => (
            <Link
              key={stop.href}
              href={stop.href}
              aria-current={path === stop.href ? 'page' : undefined}
              className="border-b-2 border-transparent py-1 aria-[current]:border-prussian"
            >
              {stop.name}
            </Link>
          ))}
        </nav>
        <span className="ml-auto text-sm text-ink-2">
          <TextLink href="/account">{name}</TextLink> · <SignOut className={textLook()} />
        </span>
      </div>
    </header>
  );
}
