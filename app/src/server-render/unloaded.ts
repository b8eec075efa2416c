/** Says that the page's scripts have begun; see `entry.ts`. */
export const BEGUN = 'data-begun';

/**
 * Says so where the scripts that the page begins with could not be had (the network went, or the server
 * serves another version by now), since nothing that is pressed would ever be answered. Parts that come later
 * say it themselves.
 */
export function tellUnloaded(page: Document = document): void {
  const look = () => {
    if (page.documentElement.hasAttribute(BEGUN)) return;
    const said = page.createElement('div');
    said.className = 'unloaded';
    said.setAttribute('role', 'alert');
    const again = page.createElement('a');
    again.href = page.location.href;
    again.textContent = 'Load it again';
    said.append('Part of this page could not be loaded, so nothing can be pressed yet.', again);
    page.body.append(said);
  };
  // All that the page asks for has come by then, or has failed.
  if (page.readyState === 'complete') look();
  else page.defaultView!.addEventListener('load', look, { once: true });
}
