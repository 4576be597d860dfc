/** Who follows what, by id. */
export interface Subscriptions<T> {
  /** Tells a new state; with `isLast` everybody is let go after it. */
  emit(id: string, state: T, isLast: boolean): void;
  /** Lets everybody go who follows this. */
  end(id: string): void;
  subscribe(id: string, next: (state: T) => void, end: () => void): () => void;
  /** What somebody follows. */
  ids(): string[];
  has(id: string): boolean;
}

export function createSubscriptions<T>(): Subscriptions<T> {
  const followers = new Map<string, Set<{ next: (state: T) => void; end: () => void }>>();
  const end = (id: string): void => {
    const gone = followers.get(id) ?? [];
    followers.delete(id);
    for (const follower of gone) follower.end();
  };
  return {
    emit(id, state, isLast) {
      for (const { next } of followers.get(id) ?? []) next(state);
      if (isLast) end(id);
    },
    end,
    ids: () => [...followers.keys()],
    has: (id) => followers.has(id),
    subscribe(id, next, end) {
      const follower = { next, end };
      const set = followers.get(id) ?? new Set();
      followers.set(id, set.add(follower));
      return () => {
        set.delete(follower);
        if (set.size === 0 && followers.get(id) === set) followers.delete(id);
      };
    },
  };
}
