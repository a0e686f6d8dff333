'use client';
import { Dialog, DialogPanel, DialogTitle } from '@headlessui/react';
import type { ReactNode } from 'react';
import { Button, type ButtonLook } from './Button';

type Props = {
  title: string;
  /** What will happen, in numbers. */
  children: ReactNode;
  act: string;
  look?: ButtonLook;
  busy: boolean;
  onAct: () => void;
  onClose: () => void;
};

/** A dialog for what needs a decision. It takes the focus and gives it back. */
export function Decision({ title, children, act, look = 'main', busy, onAct, onClose }: Props) {
  return (
    <Dialog open onClose={onClose} className="relative z-40">
      <div className="fixed inset-0 bg-ink/30" aria-hidden="true" />
      <div className="fixed inset-0 flex items-center justify-center p-4">
        <DialogPanel className="w-full max-w-lg border border-edge bg-sheet px-6 py-5 shadow-lg">
          <DialogTitle className="text-xl">{title}</DialogTitle>
          <div className="mt-2 space-y-2">{children}</div>
          <div className="mt-5 flex gap-2">
            <Button look={look} disabled={busy} onClick={onAct}>
              {act}
            </Button>
            <Button onClick={onClose}>Not now</Button>
          </div>
        </DialogPanel>
      </div>
    </Dialog>
  );
}
