import { counted } from '@/core/base/words';

type Props = { sheets: readonly { pageId: string; page: number }[]; said: string; className?: string };

/** The pages of an answer sheet as they were read in, behind one line. */
export function WholeSheet({ sheets, said, className = '' }: Props) {
  if (sheets.length === 0) return null;
  return (
    <details className={className}>
      <summary className="text-prussian underline underline-offset-4">
        {said}
        {sheets.length > 1 && `, ${counted(sheets.length, 'page')}`}
      </summary>
      {sheets.map(({ pageId, page }) => (
        // biome-ignore lint/performance/noImgElement: a picture of a sheet is neither scaled nor kept by the framework
        <img
          key={pageId}
          src={`/sheet-pictures/${pageId}`}
          alt={`Page ${page} of the answer sheet as it was read in`}
          className="mt-2 w-full max-w-2xl border border-line bg-white"
          loading="lazy"
        />
      ))}
    </details>
  );
}
