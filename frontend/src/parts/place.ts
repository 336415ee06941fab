/**
 * Where on a lane of `width` pixels a value stands. The lane runs from `origin` to `scale`; with
 * `flipped` better (smaller) is right.
 */
export function placer(width: number, scale: number, flipped: boolean, origin = 0) {
  const margin = 12;
  const span = width - 2 * margin;
  return (value: number): number => {
    const share = Math.min(1, Math.max(0, (value - origin) / (scale - origin || 1)));
    return margin + span * (flipped ? 1 - share : share);
  };
}
