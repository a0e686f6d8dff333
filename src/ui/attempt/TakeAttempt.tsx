'use client';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { TakingPage } from './TakingPage';
import { attemptPort } from './takingPort';

/** A running attempt on its taking page; after the hand-in comes the receipt. */
export function TakeAttempt({ attemptId, title }: { attemptId: string; title: string }) {
  const router = useRouter();
  const [port] = useState(() => attemptPort(attemptId));
  return <TakingPage port={port} title={title} onHandedIn={() => router.push(`/my/receipts/${attemptId}`)} />;
}
