'use client';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { TakingPage } from './TakingPage';
import { attemptPort } from './takingPort';

/** A running attempt on its taking page; once it has ended comes the receipt, which says how. */
export function TakeAttempt({ attemptId, title }: { attemptId: string; title: string }) {
  const router = useRouter();
  const [port] = useState(() => attemptPort(attemptId));
  return <TakingPage port={port} title={title} onEnded={() => router.push(`/my/receipts/${attemptId}`)} />;
}
