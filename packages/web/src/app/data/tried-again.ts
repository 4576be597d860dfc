import { type MonoTypeOperatorFunction, retry, throwError, timer } from 'rxjs';
import type { ApiError } from './api';

const RETRY_AFTER = 2000;

/** Tries a request again and again while it may do better later, and tells each time why it did not yet. */
export const triedAgain = <T>(tell: (reason: string) => void): MonoTypeOperatorFunction<T> =>
  retry<T>({
    delay: (error: ApiError) => {
      if (!isPassing(error)) return throwError(() => error);
      tell(error.problem.detail);
      return timer(RETRY_AFTER);
    },
  });

/** Whether a request that failed may do better later: no answer, a server in trouble, a full disk, a sign-in that ended. */
const isPassing = ({ problem: { status } }: ApiError): boolean =>
  status === 0 || status >= 500 || status === 401 || status === 408 || status === 429;
