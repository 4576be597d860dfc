/** Work that is done once nothing has asked for it anew for a while, each by its name. */
export interface Later {
  after(ms: number, name: string, work: () => void): void;
  /** Drops what has not been done yet. */
  end(): void;
}

export function createLater(): Later {
  const timers = new Map<string, NodeJS.Timeout>();
  return {
    after(ms, name, work) {
      clearTimeout(timers.get(name));
      timers.set(
        name,
        setTimeout(() => {
          timers.delete(name);
          work();
        }, ms),
      );
    },
    end() {
      timers.forEach((timer) => clearTimeout(timer));
      timers.clear();
    },
  };
}
