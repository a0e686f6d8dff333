'use client';
import { counted } from '@/core/base/words';
import type { Slip } from '@/server/people/invitations';
import { Button } from '../kit/Button';
import { Sheet } from '../kit/Page';
import { ScanCode } from '../kit/ScanCode';

type Props = { slips: Slip[]; course: string; refused: string[]; onClose: () => void };

/**
 * Addresses at which people choose a password, to be handed out: on paper one slip each, by section; or read from the
 * screen. They are shown once: whoever closes them makes new ones.
 */
export function Slips({ slips, course, refused, onClose }: Props) {
  const sections = [...new Set(slips.map((slip) => slip.section))];
  return (
    <div data-printed>
      <Sheet label="Addresses to hand out" className="mb-4 px-5 py-4 print:border-0 print:p-0">
        <div className="flex flex-wrap items-start gap-3 print:hidden">
          <div className="grow">
            <h2 className="text-xl">
              {slips.length === 1
                ? `An address for ${slips[0]?.name}`
                : `Addresses for ${counted(slips.length, 'person', 'people')}`}
            </h2>
            <p className="max-w-prose text-ink-2">
              {slips.length === 1
                ? 'It opens their account once, within 30 days. Hand it to them only: it is shown here this one time, and nobody can look it up.'
                : 'Each opens one account, once, within 30 days. Hand them to these people only: they are shown here this one time, and nobody can look them up.'}
            </p>
            {refused.length > 0 && (
              <p className="max-w-prose text-ink-2">
                None for {refused.join(', ')}: who also works in a course that you do not teach gets an address there.
              </p>
            )}
          </div>
          <Button look="main" onClick={() => window.print()}>
            Print {counted(slips.length, 'slip')}
          </Button>
          <Button onClick={onClose}>Close</Button>
        </div>
        {sections.map((section) => (
          <section key={section} className="mt-3 break-after-page last:break-after-auto print:mt-0">
            {(sections.length > 1 || section) && (
              <h3 className="font-serif text-lg">{section ?? 'Without a section'}</h3>
            )}
            <ul className="grid gap-x-6 lg:grid-cols-2 print:grid-cols-1">
              {slips
                .filter((slip) => slip.section === section)
                .map((slip) => (
                  <li
                    key={slip.userId}
                    className="flex break-inside-avoid items-center gap-4 border-t border-dashed border-ink-2 py-2"
                  >
                    <ScanCode text={slip.address} />
                    <div className="min-w-0">
                      <p className="text-lg font-medium">{slip.name}</p>
                      <p className="text-sm text-ink-2">{course}: choose a password at</p>
                      <p className="font-mono text-sm wrap-anywhere">{slip.address}</p>
                      <p className="text-sm text-ink-2">
                        and from then on sign in as <strong className="text-ink">{slip.signsInAs}</strong>
                      </p>
                    </div>
                  </li>
                ))}
            </ul>
          </section>
        ))}
      </Sheet>
    </div>
  );
}
