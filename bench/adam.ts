/** Adam (Kingma & Ba 2015) for one array of weights. */
export class Adam {
  private readonly first: Float64Array;
  private readonly second: Float64Array;

  constructor(
    readonly weights: Float64Array,
    private readonly rate: number,
  ) {
    this.first = new Float64Array(weights.length);
    this.second = new Float64Array(weights.length);
  }

  step(slope: Float64Array, round: number): void {
    const [a, b] = [1 - 0.9 ** round, 1 - 0.999 ** round];
    for (let i = 0; i < slope.length; i++) {
      this.first[i] = 0.9 * this.first[i] + 0.1 * slope[i];
      this.second[i] = 0.999 * this.second[i] + 0.001 * slope[i] ** 2;
      this.weights[i] -= (this.rate * (this.first[i] / a)) / (Math.sqrt(this.second[i] / b) + 1e-8);
    }
  }
}
