'use client';

/** Ends the session and goes to the sign-in page. */
export function SignOut({ className = '' }: { className?: string }) {
  const leave = async () => {
    await fetch('/api/sign-out', { method: 'POST' });
    location.assign('/sign-in');
  };
  return (
    <button type="button" onClick={() => void leave()} className={className}>
      Sign out
    </button>
  );
}
