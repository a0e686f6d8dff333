'use client';
import { useState } from 'react';
import { Button } from './Button';
import { FileLink } from './FileLink';

/** The paper of an off-screen exam: in a window of its own, or here beside what belongs to it. */
export function PaperDocument({ name, address }: { name: string; address: string }) {
  const [open, setOpen] = useState(false);
  return (
    <div className="mb-4 border border-line bg-sheet px-4 py-2 text-base">
      <FileLink href={address} target="_blank" rel="noreferrer">
        {name}
      </FileLink>{' '}
      <Button look="quiet" aria-expanded={open} onClick={() => setOpen(!open)}>
        {open ? 'Close the paper' : 'Look at the paper here'}
      </Button>
      {open && <iframe title={name} src={address} className="mt-2 h-[60dvh] w-full border border-line" />}
    </div>
  );
}
