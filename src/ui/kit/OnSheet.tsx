type Props = { slotId: string; stands: 'answer' | 'points'; number?: number; className?: string };

/** The piece of an answer sheet on which a question was answered, as it was filled in. */
export const OnSheet = ({ slotId, stands, number, className = '' }: Props) => {
  const of = number === undefined ? '' : ` of question ${number}`;
  return (
    <figure className={className}>
      <figcaption className="text-sm text-ink-2">
        {stands === 'answer' ? 'On the answer sheet' : 'Points on the answer sheet'}
      </figcaption>
      {/* biome-ignore lint/performance/noImgElement: a picture of a sheet is neither scaled nor kept by the framework */}
      <img
        src={`/sheet-pictures/pieces/${slotId}`}
        alt={stands === 'answer' ? `The row${of} as it was filled in` : `The points${of} as they were filled in`}
        className="mt-1 max-h-48 max-w-full border border-line bg-white"
        loading="lazy"
      />
    </figure>
  );
};
