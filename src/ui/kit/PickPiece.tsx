'use client';
import { SentencePiece } from './SentencePiece';
import { Tick } from './Tick';

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
        <fieldset className="max-w-80">
          <legend className="mb-1 text-sm font-medium">{label}</legend>
          {options.map((option) => (
            <Tick
              key={option.value}
              radio
              name={label}
              on={option.value === value}
              disabled={Boolean(option.whyNot)}
              onChange={() => {
                onPick(option.value);
                close();
              }}
            >
              {option.means ?? option.says}
              {option.whyNot && <span className="block text-sm">{option.whyNot}</span>}
            </Tick>
          ))}
        </fieldset>
      )}
    </SentencePiece>
  );
}
