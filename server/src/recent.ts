/** What was made last, for who asks for the same again at once: of this process alone, and made anew by any other. */
export class Recent<T> {
  private readonly made = new Map<string, { readonly at: number; readonly value: T }>();

  /**
   * @param most how many are kept
   * @param longest for how long, ms
   */
  constructor(
    private readonly most: number,
    private readonly longest: number,
    private readonly now: () => number = Date.now,
  ) {}

  /** What is kept under a key, or else made and kept. A making that fails keeps nothing. */
  async get(key: string, make: () => Promise<T>): Promise<T> {
    const found = this.made.get(key);
    if (found && this.now() - found.at < this.longest) return found.value;
    const value = await make();
    this.made.delete(key);
    this.made.set(key, { at: this.now(), value });
    for (const old of this.made.keys()) if (this.made.size > this.most) this.made.delete(old);
    return value;
  }
}
