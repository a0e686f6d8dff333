import QRCode from 'qrcode';

/** A code that cameras read, as squares (ISO/IEC 18004); the address stands beside it in letters. */
export function ScanCode({ text, className = 'size-24 shrink-0' }: { text: string; className?: string }) {
  const { size, data } = QRCode.create(text, { errorCorrectionLevel: 'M' }).modules;
  const squares = Array.from(data, (on, i) => (on ? `M${i % size} ${Math.floor(i / size)}h1v1h-1z` : '')).join('');
  return (
    <svg viewBox={`-2 -2 ${size + 4} ${size + 4}`} className={className} aria-hidden="true">
      <path d={squares} fill="currentColor" shapeRendering="crispEdges" />
    </svg>
  );
}
