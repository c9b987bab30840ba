/** How far something has come, as a line. @param share 0–100 */
export function ThinProgress({ label, share }: { label: string; share: number }) {
  return (
    <div
      className="thin-progress flex-grow-1"
      role="progressbar"
      aria-label={label}
      aria-valuenow={Math.round(share)}
      aria-valuemin={0}
      aria-valuemax={100}
      style={{ minWidth: 80 }}
    >
      <span style={{ width: `${share}%` }} />
    </div>
  );
}
