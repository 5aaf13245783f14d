/**
 * Solves linear equations by Gauss with pivoting. Each row has `size` coefficients and its right-hand side; rows are used up.
 * A variable that nothing determines is zero.
 */
export function eliminate(rows: Float64Array[], size: number): Float64Array {
  const order = [...rows];
  const pivots: (Float64Array | undefined)[] = [];
  for (let column = 0; column < size; column++) {
    let best = -1;
    for (let row = 0; row < order.length; row++)
      if (best === -1 || Math.abs(order[row]![column]!) > Math.abs(order[best]![column]!)) best = row;
    const pivot = best === -1 ? undefined : order[best];
    if (!pivot || Math.abs(pivot[column]!) < 1e-12) {
      pivots.push(undefined);
      continue;
    }
    order.splice(best, 1);
    for (const row of order) {
      const factor = row[column]! / pivot[column]!;
      if (factor) for (let at = column; at <= size; at++) row[at]! -= factor * pivot[at]!;
    }
    pivots.push(pivot);
  }
  const solution = new Float64Array(size);
  for (let column = size - 1; column >= 0; column--) {
    const pivot = pivots[column];
    if (!pivot) continue;
    let value = pivot[size]!;
    for (let at = column + 1; at < size; at++) value -= pivot[at]! * solution[at]!;
    solution[column] = value / pivot[column]!;
  }
  return solution;
}
