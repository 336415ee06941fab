/** Where on a lane of `width` pixels a value stands; with `flipped` better (smaller) is right. */
export function placer(width: number, scale: number, flipped: boolean) {
  const margin = 12;
  const span = width - 2 * margin;
  return (value: number): number => {
    const share = Math.min(1, Math.max(0, value / scale));
    return margin + span * (flipped ? 1 - share : share);
  };
}
