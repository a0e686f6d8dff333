import type { Offered } from '@/server/people/offers';
import { Sheet } from '../kit/Page';
import { TextButton } from '../kit/TextButton';

/** What is said when a part was offered. */
export const asked = 'it is theirs once they open the address that was sent to them.';

type Props = {
  offers: Offered[];
  busy: boolean;
  onAddress: (one: Offered) => void;
  onWithdraw: (one: Offered) => void;
};

/** Parts that wait for their owner's word. */
export const Offers = ({ offers, busy, onAddress, onWithdraw }: Props) => (
  <Sheet label="Asked, and not answered yet" className="mb-4 px-3 py-2">
    <h2 className="font-sans font-medium">Asked, and not answered yet</h2>
    <p className="text-sm text-ink-2">
      Whoever has an account already gets another role only by their own word, so that nobody gets it who opened the
      account in their place.
    </p>
    <ul>
      {offers.map((one) => (
        <li key={one.offerId} className="mt-1 flex flex-wrap items-center gap-x-4 border-t border-line pt-1">
          <span className="grow">
            <span className="font-medium">{one.name}</span>, to be {one.role}{' '}
            <span className="text-ink-2">{one.email}</span>
          </span>
          <TextButton disabled={busy} onClick={() => onAddress(one)} aria-label={`Address for ${one.name}`}>
            Address to hand over
          </TextButton>
          <TextButton disabled={busy} onClick={() => onWithdraw(one)} aria-label={`No longer ask ${one.name}`}>
            No longer ask
          </TextButton>
        </li>
      ))}
    </ul>
  </Sheet>
);
