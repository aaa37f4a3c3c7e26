/** Lets so much be done at a time, and of one asker one thing: whoever sends many hostile files waits behind themselves. */
export class Turns {
  private free: number;
  private readonly waiting: { fair: string; begin: () => void }[] = [];
  private readonly busy = new Set<string>();

  constructor(atOnce: number) {
    this.free = atOnce;
  }

  async take<T>(fair: string, work: () => Promise<T>): Promise<T> {
    await new Promise<void>((begin) => {
      this.waiting.push({ fair, begin });
      this.next();
    });
    try {
      return await work();
    } finally {
      this.free++;
      this.busy.delete(fair);
      this.next();
    }
  }

  private next(): void {
    for (let i = 0; this.free > 0 && i < this.waiting.length;) {
      const { fair, begin } = this.waiting[i]!;
      if (this.busy.has(fair)) {
        i++;
        continue;
      }
      this.waiting.splice(i, 1);
      this.free--;
      this.busy.add(fair);
      begin();
    }
  }
}
