import { X } from 'lucide-react';
import type { ButtonHTMLAttributes, MouseEvent, ReactNode, Ref } from 'react';
import { Link } from './Link';
import { OnItsWay } from './OnItsWay';
import { SaysWhy } from './SaysWhy';

const looks = {
  main: 'bg-prussian text-white border-prussian hover:bg-ink',
  plain: 'bg-sheet text-ink border-edge hover:bg-prussian-wash',
  quiet: 'bg-transparent text-prussian border-transparent hover:bg-prussian-wash',
  grave: 'bg-sheet text-brick border-brick hover:bg-brick-wash',
};

export type ButtonLook = keyof typeof looks;

const shape =
  'inline-flex items-center justify-center gap-1.5 rounded-sm border px-3 min-h-9 font-medium whitespace-nowrap transition-colors duration-100 disabled:opacity-60';

type Props = ButtonHTMLAttributes<HTMLButtonElement> & {
  ref?: Ref<HTMLButtonElement>;
  look?: ButtonLook;
  /** Shown in the tooltip after the name of the action. */
  keys?: string;
  /** Why the button cannot be used; it stays reachable, and says so when it is pressed. */
  whyNot?: string | null;
  /** While what was pressed is under way: it takes no press and keeps the focus, which `disabled` would lose. */
  busy?: boolean;
};

export function Button({
  look = 'plain',
  keys,
  busy = false,
  className = '',
  title,
  type = 'button',
  onClick,
  ...rest
}: Props) {
  const { whyNot, ...others } = rest;
  const still = whyNot || busy;
  const tip = whyNot ?? ([title, keys && `(${keys})`].filter(Boolean).join(' ') || undefined);
  const drawn = (more: string, tell?: (event: MouseEvent<HTMLButtonElement>) => void) => (
    <button
      {...others}
      type={still ? 'button' : type}
      title={tip}
      aria-disabled={still ? true : undefined}
      aria-busy={busy || undefined}
      onClick={whyNot ? tell : busy ? undefined : onClick}
      className={`${shape} ${looks[look]} ${still ? 'opacity-60' : ''} ${more}`}
    />
  );
  // Who names a reason at times keeps the same element whether there is one or not, and with it the focus.
  if (!('whyNot' in rest)) return drawn(className);
  return (
    <SaysWhy why={whyNot} className={className}>
      {(tell) => drawn('', tell)}
    </SaysWhy>
  );
}

/** A link that looks like a button: for the one main action of a page when it leads somewhere. */
export function ButtonLink({
  href,
  look = 'plain',
  className = '',
  download,
  children,
}: {
  href: string;
  /** Whether it leads to a file rather than a page. */
  download?: boolean;
  look?: ButtonLook;
  className?: string;
  children: ReactNode;
}) {
  const shown = `${shape} ${looks[look]} ${className}`;
  if (download)
    return (
      <a href={href} download className={shown}>
        {children}
      </a>
    );
  return (
    <Link href={href} className={`relative ${shown}`}>
      {children}
      <OnItsWay />
    </Link>
  );
}

/** The small cross at the end of a row that takes the row out. */
export const RemoveButton = ({
  label,
  disabled,
  onClick,
  className = '',
}: {
  label: string;
  disabled?: boolean;
  onClick: () => void;
  className?: string;
}) => (
  <button
    type="button"
    aria-label={label}
    title={label}
    disabled={disabled}
    onClick={onClick}
    className={`p-2.5 text-ink-2 hover:bg-prussian-wash disabled:opacity-40 ${className}`}
  >
    <X size={15} aria-hidden="true" />
  </button>
);
