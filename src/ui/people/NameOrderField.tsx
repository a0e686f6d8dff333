import type { NameOrder } from '@/core/people/names';
import { SelectField } from '../kit/Field';

const said: Record<NameOrder, string> = { first: 'first name first', last: 'last name first' };

/** How names stand in a list and sort it; kept for all lists of whoever says so. */
export const NameOrderField = ({ order, set }: { order: NameOrder; set: (order: NameOrder) => void }) => (
  <SelectField
    label="Names"
    quiet
    className="w-44"
    value={order}
    onChange={(event) => set(event.target.value as NameOrder)}
  >
    {Object.entries(said).map(([one, words]) => (
      <option key={one} value={one}>
        {words}
      </option>
    ))}
  </SelectField>
);
