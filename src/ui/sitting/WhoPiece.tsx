'use client';
import { useState } from 'react';
import { counted } from '@/core/base/words';
import type { Who } from '@/server/sitting/rulesInput';
import { Button } from '../kit/Button';
import { Find, holds } from '../kit/Find';
import { SentencePiece } from '../kit/SentencePiece';
import { Tick } from '../kit/Tick';

type Props = {
  who: Who;
  sections: { id: string; name: string }[];
  course: { id: string; name: string; section: string | null }[];
  link: string | null;
  students: number;
  onSet: (who: Who) => void;
};

function whoSaid({ who, sections, course }: Pick<Props, 'who' | 'sections' | 'course'>): string {
  if (who.kind === 'course') return 'the whole course';
  if (who.kind === 'link') return 'anyone with the link';
  const named = sections.filter((one) => who.sectionIds.includes(one.id)).map((one) => one.name);
  const students = course.filter((one) => who.studentIds.includes(one.id)).map((one) => one.name);
  const people = students.length > 3 ? [`${students.length} named students`] : students;
  return [...named, ...people].join(', ') || 'nobody yet';
}

/** Whom a sitting is given to: the course, some of its sections and students, or anyone with its link. */
export function WhoPiece(props: Props) {
  const said = whoSaid(props);
  return (
    <SentencePiece says={said} label={`Given to: ${said}`}>
      {(close) => (
        <WhoFields
          {...props}
          onSet={(who) => {
            props.onSet(who);
            close();
          }}
        />
      )}
    </SentencePiece>
  );
}

function WhoFields({ who, sections, course, link, onSet }: Props) {
  const [picked, setPicked] = useState<Who>(who);
  const [find, setFind] = useState('');
  const some = picked.kind === 'some' ? picked : { kind: 'some' as const, sectionIds: [], studentIds: [] };
  const toggled = (all: readonly string[], id: string, on: boolean) =>
    on ? [...all, id] : all.filter((one) => one !== id);
  const shown = course.filter((one) => holds(find, one.name, one.section)).slice(0, 200);
  return (
    <div className="w-80">
      <Tick radio name="who" on={picked.kind === 'course'} onChange={() => setPicked({ kind: 'course' })}>
        the whole course
      </Tick>
      <Tick radio name="who" on={picked.kind === 'some'} onChange={() => setPicked(some)}>
        some of it
      </Tick>
      {picked.kind === 'some' && (
        <div className="mb-1 ml-6">
          {sections.map((one) => (
            <Tick
              key={one.id}
              on={some.sectionIds.includes(one.id)}
              onChange={(on) => setPicked({ ...some, sectionIds: toggled(some.sectionIds, one.id, on) })}
            >
              section {one.name}
            </Tick>
          ))}
          <Find
            label="Find in the course"
            value={find}
            onChange={setFind}
            said={some.studentIds.length > 0 && `${counted(some.studentIds.length, 'student')} named`}
          />
          <div className="max-h-40 overflow-y-auto">
            {shown.map((one) => (
              <Tick
                key={one.id}
                on={some.studentIds.includes(one.id)}
                onChange={(on) => setPicked({ ...some, studentIds: toggled(some.studentIds, one.id, on) })}
              >
                {one.name} <span className="text-sm text-ink-2">{one.section}</span>
              </Tick>
            ))}
          </div>
        </div>
      )}
      <Tick radio name="who" on={picked.kind === 'link'} onChange={() => setPicked({ kind: 'link' })}>
        anyone with the link, who types a name
      </Tick>
      {picked.kind === 'link' && (
        <p className="mb-2 ml-7 text-sm text-ink-2">
          {link
            ? 'The link stands below the title.'
            : 'The link stands below the title once this is set. Whoever comes by it stands on no list of the course; attempts cannot be limited.'}
        </p>
      )}
      <Button
        look="main"
        className="mt-1"
        whyNot={
          picked.kind === 'some' && picked.sectionIds.length + picked.studentIds.length === 0
            ? 'Tick a section or name a student.'
            : null
        }
        onClick={() => onSet(picked)}
      >
        Set
      </Button>
    </div>
  );
}
