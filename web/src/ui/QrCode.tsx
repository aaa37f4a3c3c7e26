import { renderSVG } from 'uqr';

/** An address as cameras read it. Dark on white by day and night: they want it so. */
export function QrCode({ of, className = 'size-40' }: { of: string; className?: string }) {
  return (
    <img
      src={`data:image/svg+xml,${encodeURIComponent(renderSVG(of, { border: 2 }))}`}
      alt={`QR code of ${of}`}
      className={`rounded-lg border border-line bg-white ${className}`}
    />
  );
}
