'use client';
import {
  type InputHTMLAttributes,
  type ReactNode,
  type SelectHTMLAttributes,
  type TextareaHTMLAttributes,
  useId,
} from 'react';

export const inputShape =
  'w-full rounded-sm border border-edge bg-sheet px-2.5 min-h-9 text-ink aria-invalid:border-brick aria-invalid:border-2';

export type FieldProps = {
  label: string;
  hint?: ReactNode;
  /** What is wrong with what was entered; what was entered stays. */
  problem?: string | null;
  /** Whether the label is only for people who hear the page. */
  quiet?: boolean;
  className?: string;
};

type Given = { id: string; 'aria-invalid'?: true; 'aria-describedby'?: string };

/** A label with its hint and its problem around whatever takes the value. */
export function Field({
  label,
  hint,
  problem,
  quiet,
  className = '',
  children,
}: FieldProps & { children: (given: Given) => ReactNode }) {
  const id = useId();
  const describedBy = [hint && `${id}-hint`, problem && `${id}-problem`].filter(Boolean).join(' ');
  const given: Given = {
    id,
    ...(problem ? { 'aria-invalid': true } : {}),
    ...(describedBy ? { 'aria-describedby': describedBy } : {}),
  };
  return (
    <div className={className}>
      <label htmlFor={id} className={quiet ? 'sr-only' : 'mb-1 block text-sm font-medium'}>
        {label}
      </label>
      {children(given)}
      {hint && (
        <p id={`${id}-hint`} className="mt-1 text-sm text-ink-2">
          {hint}
        </p>
      )}
      {problem && (
        <p id={`${id}-problem`} aria-live="polite" className="mt-1 text-sm text-brick">
          {problem}
        </p>
      )}
    </div>
  );
}

/** Where a field takes no more: said, since the browser cuts off what goes beyond without a word. */
const fullSaid = ({ value, maxLength }: { value?: unknown; maxLength?: number }): string | null =>
  maxLength !== undefined && typeof value === 'string' && value.length >= maxLength
    ? `More than ${maxLength.toLocaleString('en')} characters do not fit in here: what went beyond has been left out.`
    : null;

export function TextField({
  label,
  hint,
  problem,
  quiet,
  className,
  ...input
}: FieldProps & Omit<InputHTMLAttributes<HTMLInputElement>, 'className'>) {
  return (
    <Field {...{ label, hint, problem: problem ?? fullSaid(input), quiet, className }}>
      {(given) => <input {...input} {...given} className={inputShape} />}
    </Field>
  );
}

export function TextArea({
  label,
  hint,
  problem,
  quiet,
  className,
  ...input
}: FieldProps & Omit<TextareaHTMLAttributes<HTMLTextAreaElement>, 'className'>) {
  return (
    <Field {...{ label, hint, problem: problem ?? fullSaid(input), quiet, className }}>
      {(given) => <textarea {...input} {...given} className={`${inputShape} py-2`} />}
    </Field>
  );
}

export function SelectField({
  label,
  hint,
  problem,
  quiet,
  className,
  children,
  ...select
}: FieldProps & Omit<SelectHTMLAttributes<HTMLSelectElement>, 'className'>) {
  return (
    <Field {...{ label, hint, problem, quiet, className }}>
      {(given) => (
        <select {...select} {...given} className={inputShape}>
          {children}
        </select>
      )}
    </Field>
  );
}
