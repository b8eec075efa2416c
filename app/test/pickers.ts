import { within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';

/** A field of a day or an hour, by its label; it is loaded when it is first drawn. */
export const picker = (label: string, inside: HTMLElement = document.body): Promise<HTMLElement> =>
  within(inside).findByRole('group', { name: label });

/** Types into such a field, digit by digit as its parts go on by themselves: `13102026`, `1600`. */
export async function typeInto(label: string, digits: string, inside?: HTMLElement): Promise<void> {
  const [first] = within(await picker(label, inside)).getAllByRole('spinbutton');
  await userEvent.click(first!);
  await userEvent.keyboard(digits);
}

/** What such a field shows: `13/10/2026`, `16:00`. */
export const shownIn = async (label: string, inside?: HTMLElement): Promise<string> =>
  ((await picker(label, inside)).textContent ?? '').replace(/[\u2066-\u2069\u200e]/g, '');
