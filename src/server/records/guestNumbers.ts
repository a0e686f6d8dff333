import { createHmac } from 'node:crypto';
import type { Db } from '@/db/client';
import { installationSecret } from '../house/installation';

/** From so many students on a section is named beside them: of fewer it would tell who they are. */
const fewestInSection = 5;

/**
 * Students as somebody sees them who may know no names: a number each, in an order that follows from a secret and from
 * nothing that is known of them. The same about the same thing, whenever it is asked for.
 *
 * @param about a sitting or a course: numbers of one lead to none of another
 */
export function withoutNames<Student extends { userId: string; section?: string | null }>(
  db: Db,
  about: string,
  students: readonly Student[],
): { student: Student; name: string; section: string | null }[] {
  const secret = installationSecret(db);
  const place = ({ userId }: Student) => createHmac('sha256', secret).update(`guest/${about}/${userId}`).digest('hex');
  const inSection = new Map<string, number>();
  for (const { section } of students) if (section) inSection.set(section, (inSection.get(section) ?? 0) + 1);
  return students
    .map((student) => ({ student, at: place(student) }))
    .sort((a, b) => (a.at < b.at ? -1 : 1))
    .map(({ student }, i) => ({
      student,
      name: `Student ${i + 1}`,
      section: student.section && (inSection.get(student.section) ?? 0) >= fewestInSection ? student.section : null,
    }));
}
