import { PAGE_HEADER, SEE_AS_HEADER, paths } from '@zephyrfield/core/api/paths';
import type { ReplyOf, RequestOf, Routes } from '@zephyrfield/core/api/routes';
import type { Problem } from '@zephyrfield/core/api/schemas';
import { prefetchedValue, forgetPrefetched, takePrefetched } from './prefetch';
import { pathOf } from './path';
import { useSeeAs } from './see-as';

/** What the server would not do, in words fit to show. */
export class Refusal extends Error {
  constructor(readonly problem: Problem) {
    super(problem.title);
  }
}

const UNREACHED: Problem = {
  type: 'urn:zephyrfield:unreached',
  title: 'Zephyrfield’s server cannot be reached.',
  status: 0,
  remedy: 'Check the connection and try again. What you see is from the last time it worked.',
};

/** Way in which this page names itself to the server, which tells it of all changes but its own. */
export const PAGE = Math.random().toString(36).slice(2);

/** What a browser still sends of a page that is being left: it allows 64 KiB of all that is under way. */
const SENT_ON_LEAVING = 4096;

type Given<T> = { [K in keyof T as T[K] extends Record<string, never> ? never : K]: T[K] };

/**
 * Asks the server along one line of the contract.
 * @throws Refusal
 */
export async function call<N extends keyof Routes>(
  name: N,
  request: Partial<Given<RequestOf<Routes[N]>>> = {},
): Promise<ReplyOf<Routes[N]>> {
  const route = paths[name];
  const { params, query, body } = request as {
    params?: Record<string, string>;
    query?: Record<string, string>;
    body?: unknown;
  };
  const path = pathOf(name, params, query);
  if (route.method !== 'GET') forgetPrefetched();
  const prefetched = await takePrefetched(path);
  if (prefetched !== undefined) return prefetched as ReplyOf<Routes[N]>;
  const text = body === undefined ? undefined : JSON.stringify(body);
  const { as } = useSeeAs.getState();
  const eyes: Record<string, string> = as ? { [SEE_AS_HEADER]: as.memberId } : {};
  let response: Response;
  try {
    response = await fetch(path, {
      method: route.method,
      // What is pressed just before the page is closed still arrives.
      keepalive: route.method !== 'GET' && (text?.length ?? 0) <= SENT_ON_LEAVING,
      // Every change says what it brings, also where it brings nothing.
      headers:
        route.method === 'GET' ? eyes : { ...eyes, 'content-type': 'application/json', [PAGE_HEADER]: PAGE },
      ...(text === undefined ? {} : { body: text }),
    });
  } catch {
    throw new Refusal(UNREACHED);
  }
  const reply: unknown = await response.json().catch(() => null);
  if (!response.ok) throw new Refusal(isProblem(reply) ? reply : { ...UNREACHED, status: response.status });
  return reply as ReplyOf<Routes[N]>;
}

/**
 * What a query shows until its own asking is done: the reply that came before the page was there, so that the
 * first drawing has all in it. The asking then takes the same reply. It never becomes what the query goes
 * back to, say after signing out.
 */
export function begun<N extends keyof Routes>(name: N, request: Partial<Given<RequestOf<Routes[N]>>> = {}) {
  const { params, query } = request as { params?: Record<string, string>; query?: Record<string, string> };
  return {
    placeholderData: () => prefetchedValue(pathOf(name, params, query)) as ReplyOf<Routes[N]> | undefined,
  };
}

/**
 * Sends a file along a line of the contract that takes one, telling how much of it has gone (0 to 1).
 * @throws Refusal
 */
export function sendFile<N extends keyof Routes>(
  name: N,
  request: { params: Record<string, string>; query: Record<string, string>; file: Blob },
  onSent: (share: number) => void,
  stop?: AbortSignal,
): Promise<ReplyOf<Routes[N]>> {
  const route = paths[name];
  forgetPrefetched();
  return new Promise((resolve, reject) => {
    // fetch cannot tell how far an upload is.
    const asking = new XMLHttpRequest();
    asking.open(route.method, pathOf(name, request.params, request.query));
    asking.setRequestHeader('content-type', 'application/octet-stream');
    asking.setRequestHeader(PAGE_HEADER, PAGE);
    asking.responseType = 'json';
    asking.upload.onprogress = ({ loaded, total, lengthComputable }) =>
      onSent(lengthComputable && total > 0 ? loaded / total : 0);
    asking.upload.onload = () => onSent(1);
    asking.onerror = () => reject(new Refusal(UNREACHED));
    asking.onabort = () => reject(new Refusal(STOPPED));
    stop?.addEventListener('abort', () => asking.abort());
    asking.onload = () => {
      const reply: unknown = asking.response;
      if (asking.status >= 200 && asking.status < 300) resolve(reply as ReplyOf<Routes[N]>);
      else reject(new Refusal(isProblem(reply) ? reply : { ...UNREACHED, status: asking.status }));
    };
    asking.send(request.file);
  });
}

/** Whoever asked has called it off. */
const STOPPED: Problem = { type: 'urn:zephyrfield:stopped', title: 'It was called off.', status: 0 };
export const isStopped = (error: unknown): boolean => error instanceof Refusal && error.problem === STOPPED;

const isProblem = (value: unknown): value is Problem =>
  typeof value === 'object' && value !== null && 'title' in value && 'status' in value;

/** Any failure as a problem to show. */
export const problemOf = (error: unknown): Problem =>
  error instanceof Refusal
    ? error.problem
    : {
        ...UNREACHED,
        title: 'Something went wrong in this page.',
        remedy: 'Reload the page. Nothing was lost.',
      };
