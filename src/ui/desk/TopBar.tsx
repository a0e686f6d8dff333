'use client';
import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react';
import { ChevronDown } from 'lucide-react';
import { usePathname } from 'next/navigation';
import type { Role } from '@/core/people/policy';
import { Link } from '../kit/Link';
import { OnItsWay } from '../kit/OnItsWay';
import { pageWidths } from '../kit/pageWidths';
import { TextLink } from '../kit/TextLink';
import { textLook } from '../kit/textLook';
import { SignOut } from '../people/SignOut';

type Props = {
  courseId: string;
  courseName: string;
  courses: { id: string; name: string; term: string; role: Role }[];
  role: Role;
  name: string;
  /** How much waits at each stop. */
  waiting: { marking: number };
};

const stops: { path: string; name: string; for: readonly Role[]; waits?: keyof Props['waiting'] }[] = [
  { path: '', name: 'Desk', for: ['instructor', 'marker', 'guest'] },
  { path: '/banks', name: 'Banks', for: ['instructor'] },
  { path: '/exams', name: 'Exams', for: ['instructor', 'guest'] },
  { path: '/sittings', name: 'Sittings', for: ['instructor', 'guest'] },
  { path: '/marking', name: 'Marking', for: ['instructor', 'marker'], waits: 'marking' },
  { path: '/gradebook', name: 'Gradebook', for: ['instructor'] },
  { path: '/people', name: 'People', for: ['instructor'] },
];

/** The one slim bar on top: course, the stops in the order of the work with what waits there, the person. */
export function TopBar({ courseId, courseName, courses, role, name, waiting }: Props) {
  const path = usePathname();
  const base = `/c/${courseId}`;
  return (
    <header className="border-b border-line">
      <a href="#work" className="absolute -top-20 left-4 z-20 bg-sheet px-3 py-2 focus:top-1">
        To the work
      </a>
      <div className={`mx-auto flex flex-wrap items-center gap-x-3 px-5 md:gap-x-5 ${pageWidths.full}`}>
        <Link href="/" className="font-serif text-lg font-semibold max-md:sr-only">
          Wuzzen
        </Link>
        <Menu>
          <MenuButton className="flex max-w-44 items-center gap-1 py-2.5 font-medium md:max-w-none">
            <span className="truncate">{courseName}</span> <ChevronDown size={14} aria-hidden="true" />
          </MenuButton>
          <MenuItems
            anchor="bottom start"
            className="z-30 min-w-60 border border-line bg-sheet py-1 shadow-md outline-none"
          >
            {courses.map((course) => (
              <MenuItem key={course.id}>
                <Link
                  href={course.role === 'student' ? '/my' : `/c/${course.id}`}
                  className="block px-4 py-2 data-focus:bg-prussian-wash"
                >
                  {course.name} <span className="text-ink-2">{course.term}</span>
                </Link>
              </MenuItem>
            ))}
            {role === 'instructor' && (
              <MenuItem>
                <Link
                  href="/new-course"
                  className="block border-t border-line px-4 py-2 text-prussian data-focus:bg-prussian-wash"
                >
                  Begin another course
                </Link>
              </MenuItem>
            )}
          </MenuItems>
        </Menu>
        {/* On a phone the stops are one line below, moved with the finger. */}
        <nav
          aria-label="Stops of the work"
          className="order-last -mx-2.5 flex w-full overflow-x-auto whitespace-nowrap md:order-none md:mx-0 md:w-auto md:flex-wrap md:overflow-visible"
        >
          {stops
            .filter((stop) => stop.for.includes(role))
            .map((stop) => {
              const here = stop.path === '' ? path === base : path.startsWith(base + stop.path);
              const count = stop.waits ? waiting[stop.waits] : 0;
              return (
                <Link
                  key={stop.path}
                  href={base + stop.path}
                  aria-current={here ? 'page' : undefined}
                  className="relative border-b-2 border-transparent px-2.5 py-2.5 hover:text-prussian aria-[current]:border-prussian aria-[current]:font-medium"
                >
                  {stop.name} <OnItsWay />
                  {count > 0 && (
                    <span className="text-sm text-plum tabular-nums">
                      {count}
                      <span className="sr-only"> waiting</span>
                    </span>
                  )}
                </Link>
              );
            })}
        </nav>
        <span className="ml-auto text-sm text-ink-2">
          <TextLink href="/account">
            <span className="max-md:sr-only">{name}</span>
            <span className="md:hidden" aria-hidden="true">
              {name.split(' ')[0]}
            </span>
          </TextLink>{' '}
          · <SignOut className={textLook()} />
        </span>
      </div>
    </header>
  );
}
