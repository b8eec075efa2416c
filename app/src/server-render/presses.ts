import { onceRead } from './read';

/** What can be pressed, as a selector; drawn by the server or alive, it looks the same. */
const PRESSABLE = 'a[href],button,[role="button"],[role="link"],[role="radio"],[role="switch"]';

/**
 * How long what was pressed is looked for once the page is alive, in milliseconds: what comes last is drawn
 * last.
 */
const PATIENCE = 5_000;

/** By what one thing to press is known again when it is drawn anew. */
const nameOf = (e: Element) =>
  `${e.getAttribute('role') ?? e.tagName} ${e.getAttribute('aria-label') ?? e.textContent}`;

/** Gives what is outside of the drawn page (`server-render/unloaded`) is the browser's. */
const pressable = (target: EventTarget | null) =>
  target instanceof Element && target.closest('#root') ? target.closest<HTMLElement>(PRESSABLE) : null;

/**
 * While the page is as the server drew it (`html` says `data-server-rendered`) nothing in it is alive. A
 * press is kept until it is, and is then made; how far one has scrolled and where the focus is stays as well.
 */
export function keepPresses(page: Document = document): void {
  let pressed: string | null = null;
  let focused: string | null = null;
  let scrolled = 0;
  const root = () => page.getElementById('root');
  const isDrawn = () => page.documentElement.hasAttribute('data-server-rendered');

  const press = (event: Event, target: HTMLElement) => {
    event.preventDefault();
    for (const other of page.querySelectorAll('[data-pressed]')) other.removeAttribute('data-pressed');
    target.dataset['pressed'] = '';
    pressed = nameOf(target);
  };
  const listeners: {
    [E in 'click' | 'keydown' | 'focusin' | 'scroll']: (event: DocumentEventMap[E]) => void;
  } = {
    click(event) {
      const target = isDrawn() && pressable(event.target);
      // A link into a window of its own is the browser's.
      if (target && !event.ctrlKey && !event.metaKey && !event.shiftKey) press(event, target);
    },
    keydown(event) {
      const target = isDrawn() && pressable(event.target);
      if (target && (event.key === 'Enter' || event.key === ' ')) press(event, target);
    },
    focusin(event) {
      focused = isDrawn() && event.target instanceof Element ? nameOf(event.target) : null;
    },
    scroll(event) {
      if (isDrawn() && event.target instanceof Element) scrolled = event.target.scrollTop;
    },
  };
  const each = (what: 'addEventListener' | 'removeEventListener') => {
    for (const [name, listener] of Object.entries(listeners))
      page[what](name, listener as EventListener, true);
  };

  /** Goes on where one was; says whether there is nothing left to go on with. */
  const goOn = (alive: Element): boolean => {
    const called = (name: string) =>
      [...alive.querySelectorAll<HTMLElement>(`${PRESSABLE},[tabindex]`)].find((e) => nameOf(e) === name);
    if (scrolled) {
      const scroller = [...alive.querySelectorAll('[role="main"] *')].find(
        (e) => e.scrollHeight > e.clientHeight && /auto|scroll/.test(getComputedStyle(e).overflowY),
      );
      if (scroller) scroller.scrollTop = scrolled;
      if (scroller && scroller.scrollTop >= scrolled - 1) scrolled = 0;
    }
    if (focused && called(focused)) {
      called(focused)?.focus();
      focused = null;
    }
    const target = pressed && called(pressed);
    if (target) {
      pressed = null;
      target.click();
    }
    return !scrolled && !focused && !pressed;
  };

  const begin = () => {
    const drawn = root()?.firstElementChild;
    if (!drawn || !isDrawn()) return each('removeEventListener');
    new MutationObserver((_, observer) => {
      if (drawn.isConnected) return;
      observer.disconnect();
      const alive = root()!;
      page.documentElement.removeAttribute('data-server-rendered');
      each('removeEventListener');
      if (goOn(alive)) return;
      const later = new MutationObserver(() => goOn(alive) && later.disconnect());
      later.observe(alive, { childList: true, subtree: true });
      setTimeout(() => later.disconnect(), PATIENCE);
    }).observe(root()!, { childList: true });
  };
  each('addEventListener');
  onceRead(begin, page);
}
