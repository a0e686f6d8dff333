import { inZone } from '@/core/base/time';
import type { Former } from '@/server/people/roster';
import { RowTable, tableRow } from '../kit/RowTable';
import { TextButton } from '../kit/TextButton';

const columns = [
  { key: 'name', name: 'Name', share: 32 },
  { key: 'role', name: 'Role', share: 16 },
  { key: 'section', name: 'Section', share: 18 },
  { key: 'left', name: 'Left on', share: 18 },
  { key: 'actions', name: 'Actions', quiet: true, share: 16 },
];

type Props = { former: Former[]; timeZone: string; busy: boolean; onBack: (one: Former) => void };

/** Who has left the course. Their results stay where they are, and they see their own. */
export const FormerPeople = ({ former, timeZone, busy, onBack }: Props) => (
  <>
    <p className="border-b border-line px-3 py-2 text-ink-2">
      What they have taken stays in results and gradebook, marked as of somebody who left; they go on seeing their own
      results, and can begin nothing.
    </p>
    <RowTable label="People who have left" columns={columns} rows={former}>
      {(one) => (
        <tr key={one.membershipId} className={tableRow}>
          <td className="font-medium">{one.name}</td>
          <td className="text-ink-2">{one.role}</td>
          <td>{one.section}</td>
          <td className="text-ink-2">{inZone(one.leftAt, timeZone, 'EEE d MMM yyyy')}</td>
          <td className="text-right">
            <TextButton disabled={busy} onClick={() => onBack(one)} aria-label={`Bring ${one.name} back`}>
              Bring back
            </TextButton>
          </td>
        </tr>
      )}
    </RowTable>
  </>
);
