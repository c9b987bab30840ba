/** An arrow between the middles of two cells, in units of the board's picture. */
export function ArrowShape({
  from,
  to,
  colour,
  width = 13,
  className = 'arrow',
}: {
  from: readonly [number, number];
  to: readonly [number, number];
  colour: string;
  width?: number;
  className?: string;
}) {
  const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
  const length = Math.hypot(dx, dy);
  if (length === 0) return null;
  const angle = (Math.atan2(dy, dx) * 180) / Math.PI;
  const head = width * 2.2;
  const shaft = Math.max(0, length - head - 12);
  const half = width / 2;
  return (
    <path
      className={className}
      transform={`translate(${from[0]} ${from[1]}) rotate(${angle})`}
      d={`M18 ${-half}H${shaft}V${-head * 0.62}L${length - 12} 0L${shaft} ${head * 0.62}V${half}H18z`}
      fill={colour}
    />
  );
}

export const MARK_COLOURS = {
  green: 'var(--good)',
  red: 'var(--seal)',
  yellow: 'var(--mistake)',
  blue: 'var(--indigo)',
} as const;
