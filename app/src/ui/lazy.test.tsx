import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ComponentType } from 'react';
import { Guard } from './guard';
import { lazyComponent } from './lazy';

const Page = () => <p>all of it</p>;
/** Fails so often, then gives the page. */
const failing = (times: number) => {
  let left = times;
  return async (): Promise<ComponentType> => {
    if (left-- > 0) throw new Error('Loading the script failed');
    return Page;
  };
};

// What fails is told on the console too; here it is wanted.
beforeEach(() => jest.spyOn(console, 'error').mockImplementation(() => {}));
afterEach(() => jest.restoreAllMocks());

test('what cannot be loaded says so, and leaves what stands around it; tried again, it is there', async () => {
  const Part = lazyComponent(failing(2), 'page');
  render(
    <>
      <p>around</p>
      <Part />
    </>,
  );
  expect(screen.getByRole('status', { name: 'Loading the page' })).toBeInTheDocument();
  for (let i = 0; i < 2; i++) {
    expect(await screen.findByText('This part could not be shown.')).toBeInTheDocument();
    expect(screen.getByRole('heading', { level: 1 })).toHaveTextContent('Not here yet');
    expect(screen.getByText('around')).toBeInTheDocument();
    await userEvent.click(screen.getByRole('button', { name: 'Try again' }));
  }
  expect(await screen.findByText('all of it')).toBeInTheDocument();
  expect(screen.queryByRole('button')).not.toBeInTheDocument();
});

test('drawn at another place, it is tried anew by itself', async () => {
  const Part = lazyComponent(failing(1));
  const { unmount } = render(<Part />);
  await screen.findByText('This part could not be shown.');
  expect(screen.queryByRole('heading')).not.toBeInTheDocument();
  unmount();
  render(<Part />);
  expect(await screen.findByText('all of it')).toBeInTheDocument();
});

test('an aid that cannot be loaded is left away', async () => {
  const load = jest.fn(failing(1));
  const Aid = lazyComponent(load, 'aid');
  const { container } = render(<Aid />);
  await expect(load.mock.results[0]!.value).rejects.toThrow();
  expect(container).toBeEmptyDOMElement();
});

test('without a network it says that; another place begins anew', async () => {
  jest.spyOn(navigator, 'onLine', 'get').mockReturnValue(false);
  const Broken = ({ well }: { well: boolean }) => {
    if (!well) throw new Error('drawn wrongly');
    return <p>well</p>;
  };
  const { rerender } = render(
    <Guard of="/today">
      <Broken well={false} />
    </Guard>,
  );
  expect(screen.getByText('There is no network just now.')).toBeInTheDocument();
  expect(screen.getByRole('button', { name: 'Load the page again' })).toBeEnabled();
  rerender(
    <Guard of="/settings">
      <Broken well />
    </Guard>,
  );
  expect(screen.getByText('well')).toBeInTheDocument();
});
