import { Button } from './Button';

type Props = { count: number; perPage: number; page: number; onTurn: (page: number) => void };

/** Turns the pages of a long list; nothing where it fits on one. */
export function PageTurner({ count, perPage, page, onTurn }: Props) {
  const pages = Math.ceil(count / perPage);
  if (pages < 2) return null;
  return (
    <nav aria-label="Pages" className="mt-2 flex items-center gap-3 border-t border-line pt-2">
      <Button whyNot={page === 0 ? 'This is the beginning.' : null} onClick={() => onTurn(page - 1)}>
        Before
      </Button>
      <span className="tabular-nums">
        {page * perPage + 1} to {Math.min(count, (page + 1) * perPage)} of {count}
      </span>
      <Button whyNot={page >= pages - 1 ? 'This is the end.' : null} onClick={() => onTurn(page + 1)}>
        Further
      </Button>
    </nav>
  );
}
