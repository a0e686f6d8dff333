'use client';
import { PickOne } from './PickOne';
import { SentencePiece } from './SentencePiece';

type Props<Value extends string> = {
  /** What it decides, for people who hear the page. */
  label: string;
  value: Value;
  /** `says` stands in the sentence, `means` in the list where it takes more words. */
  options: readonly { value: Value; says: string; means?: string; whyNot?: string | null }[];
  quiet?: boolean;
  onPick: (value: Value) => void;
};

/** A piece of a sentence that is one of a few words; it opens their list. */
export function PickPiece<Value extends string>({ label, value, options, quiet, onPick }: Props<Value>) {
  const says = options.find((option) => option.value === value)?.says ?? '';
  return (
    <SentencePiece says={says} label={`${label}: ${says}`} quiet={quiet}>
      {(close) => (
        <PickOne
          legend={label}
          className="max-w-80"
          value={value}
          options={options.map((option) => ({
            value: option.value,
            disabled: Boolean(option.whyNot),
            says: (
              <>
                {option.means ?? option.says}
                {option.whyNot && <span className="block text-sm">{option.whyNot}</span>}
              </>
            ),
          }))}
          onPick={(next) => {
            onPick(next);
            close();
          }}
        />
      )}
    </SentencePiece>
  );
}
