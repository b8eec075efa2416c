import { paths } from '@zephyrfield/core/api/paths';

/** Finds where a line of the contract is asked with these parameters and this query. */
export function pathOf(
  name: keyof typeof paths,
  params?: Record<string, string>,
  query?: Record<string, string>,
): string {
  const path = paths[name].path.replace(/:(\w+)/g, (_, parameter: string) =>
    encodeURIComponent(params?.[parameter] ?? ''),
  );
  return query ? `${path}?${new URLSearchParams(query)}` : path;
}
