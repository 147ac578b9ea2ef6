/** @jest-environment ./tools/jest-page.mjs */
import { afterEach, beforeEach, describe, expect, it, jest } from '@jest/globals';
import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import type { Lesson } from '@viaticum/contract';
import { lessonFaults } from '@viaticum/core/document';
import { useLocation } from 'react-router';
import SignInView from '../account/sign-in.js';
import { NewLesson } from '../begin/begin.js';
import { asInBrowser, cleanup, fileFields, onPage, server } from '../fixtures/page.fixture.js';
import Shelf from './shelf.js';

beforeEach(() => {
  asInBrowser();
  Object.assign(globalThis, {
    Worker: class {
      addEventListener() {}
      removeEventListener() {}
      postMessage() {}
      terminate() {}
    },
  });
});
afterEach(cleanup);
const Where = () => <output>{useLocation().pathname}</output>;

describe('signing in', () => {
  const signIn = async (at: string, answer: unknown) => {
    const net = server({ 'GET /api/session': { instructor: null, needsOwner: false }, 'POST /api/session': answer });
    const { user } = onPage(
      <>
        <SignInView />
        <Where />
      </>,
      at,
    );
    await user.type(await screen.findByLabelText('Name'), 'demo');
    await user.type(screen.getByLabelText('Password'), 'north light');
    await user.click(screen.getByRole('button', { name: 'Sign in' }));
    return net;
  };
  it('leads to where one wanted to go', async () => {
    const { asked } = await signIn('/sign-in?to=/lesson/l', { name: 'demo' });
    await waitFor(() => expect(screen.getByRole('status').textContent).toBe('/lesson/l'));
    expect(asked.find(({ what }) => what === 'POST /api/session')?.body).toEqual({ name: 'demo', password: 'north light' });
  });
  it('never leads to another place than this one', async () => {
    await signIn('/sign-in?to=//elsewhere.example/x', { name: 'demo' });
    await waitFor(() => expect(screen.getByRole('status').textContent).toBe('/'));
  });
  it('what is wrong is said, and what was typed stays', async () => {
    await signIn('/sign-in', { status: 401, code: 'wrong', message: 'This name and password do not go together.' });
    expect((await screen.findByRole('alert')).textContent).toBe('This name and password do not go together.');
    expect((screen.getByLabelText('Name') as HTMLInputElement).value).toBe('demo');
  });
});

describe('a new lesson', () => {
  const made: { document: Lesson }[] = [];
  const make = () => {
    made.length = 0;
    server({
      'GET /api/kept': [],
      'POST /api/lessons': (body: { document: Lesson }) => {
        made.push(body);
        return { id: 'fresh', revision: 1, document: body.document, savedAt: '2026-01-05T10:00:00Z' };
      },
    });
    const onClose = jest.fn();
    return {
      onClose,
      ...onPage(
        <>
          <NewLesson onClose={onClose} />
          <Where />
        </>,
      ),
    };
  };
  it('without a picture has its canvas and its name, and goes on at the picture', async () => {
    const { user } = make();
    await user.type(screen.getByLabelText('What will you paint?'), '  Boats at noon ');
    await user.click(screen.getByRole('button', { name: 'Put it on the shelf', hidden: true }));
    await waitFor(() => expect(screen.getByRole('status', { hidden: true }).textContent).toBe('/lesson/fresh/picture'));
    const [{ document }] = made as [{ document: Lesson }];
    expect(document.title).toBe('Boats at noon');
    expect(lessonFaults(document)).toEqual([]);
    expect([document.support.widthMm, document.support.heightMm]).toEqual([406.4, 508]);
  });
  it('is given up by its key', async () => {
    const { user, onClose } = make();
    await user.click(screen.getByRole('button', { name: 'Not now', hidden: true }));
    expect(onClose).toHaveBeenCalled();
  });
  it('a picture gives it a name, and asks for school and students', async () => {
    URL.createObjectURL = () => 'blob:x';
    URL.revokeObjectURL = () => undefined;
    const { user } = make();
    expect(screen.queryByLabelText('Students')).toBeNull();
    await user.upload(fileFields()[0] as HTMLElement, new File(['x'], 'evening_ferry-02.jpg', { type: 'image/jpeg' }));
    expect((screen.getByLabelText('What will you paint?') as HTMLInputElement).value.toLowerCase()).toContain('evening ferry');
    // The browser has read it: three by two, lying.
    const image = document.querySelector('form img') as HTMLImageElement;
    for (const [side, px] of [
      ['naturalWidth', 1200],
      ['naturalHeight', 800],
    ] as const)
      Object.defineProperty(image, side, { value: px });
    fireEvent.load(image);
    expect(screen.getByLabelText('Students')).toBeTruthy();
    expect(screen.getByText('12 × 16 in')).toBeTruthy();
    expect((screen.getByLabelText('Landscape') as HTMLInputElement).checked).toBe(true);
    expect(screen.getByText(/^11 % of the picture is cut off/)).toBeTruthy();
  });
});

describe('a lesson on the shelf', () => {
  const card = {
    units: 'cm',
    widthMm: 400,
    heightMm: 500,
    steps: 4,
    endMin: 90,
    waitMin: 20,
    pictureSha256: null,
    lastStepId: null,
  };
  const standing = (titles: string[]) =>
    titles.map((title, i) => ({
      id: `l${i}`,
      title,
      revision: 3,
      updatedAt: '2026-01-05T10:00:00Z',
      card,
      role: 'owner',
      by: null,
      isArchived: false,
      labels: [],
    }));
  const shelf = async (backups: object = {}) => {
    const titles = ['Boats', 'Kettle'];
    const document = { title: 'Boats' };
    const net = server({
      'GET /api/lessons': () => standing(titles),
      'GET /api/courses': [],
      'GET /api/backups': { nightlyAt: null, elsewhereAt: null, mayMake: true, since: new Date().toISOString(), ...backups },
      'GET /api/lessons/l0': { id: 'l0', revision: 3, document, savedAt: '' },
      'PUT /api/lessons/l0': (body: { document: { title: string } }) => {
        titles[0] = body.document.title;
        return { revision: 4, savedAt: '' };
      },
      'POST /api/lessons': (body: { document: { title: string } }) => {
        titles.push(body.document.title);
        return { id: 'l9', revision: 1, document: body.document, savedAt: '' };
      },
      'DELETE /api/lessons/l0': () => {
        titles.shift();
        return {};
      },
      'GET /api/bin': () =>
        titles.includes('Boats') ? [] : [{ id: 'l0', title: 'Boats', removedAt: new Date(2026, 10, 3, 9, 30).toISOString() }],
      'POST /api/lessons/l0/restore': () => {
        titles.unshift('Boats');
        return {};
      },
    });
    const { user } = onPage(<Shelf />);
    const act = async (name: string) => {
      await user.click(await screen.findByRole('button', { name: 'What to do with Boats' }));
      await user.click(await screen.findByRole('menuitem', { name }));
    };
    return { net, user, act };
  };
  it('is opened by its picture or its words', async () => {
    await shelf();
    const link = await screen.findByRole('link', { name: 'Open Boats' });
    expect(link.getAttribute('href')).toBe('/lesson/l0');
    expect(within(link).getByText('Boats')).toBeTruthy();
  });
  it('says how old the last backup is; after a week without one elsewhere it warns, with the way to one', async () => {
    const daysAgo = (days: number) => new Date(Date.now() - days * 86_400_000).toISOString();
    await shelf({ nightlyAt: daysAgo(1) });
    await screen.findByText(/^Backed up .*, on this machine\.$/);
    cleanup();
    await shelf({ since: daysAgo(9) });
    await screen.findByText('For 9 days nothing of this has been backed up elsewhere.');
    expect(screen.getByRole('link', { name: 'Take a backup' }).getAttribute('href')).toBe('/api/backup');
    cleanup();
    await shelf({ since: daysAgo(90), elsewhereAt: daysAgo(8), mayMake: false });
    await screen.findByText('The last backup elsewhere is 8 days old.');
    expect(screen.queryByRole('link', { name: 'Take a backup' })).toBeNull();
  });
  it('is renamed over the revision that stands there', async () => {
    const { user, act, net } = await shelf();
    await act('Rename');
    const field = await screen.findByRole('textbox', { name: 'Another name for this lesson' });
    await user.clear(field);
    await user.type(field, ' Boats at noon {Enter}');
    await screen.findByRole('link', { name: 'Open Boats at noon' });
    expect(net.asked.find((one) => one.what === 'PUT /api/lessons/l0')?.body).toEqual({
      baseRevision: 3,
      document: { title: 'Boats at noon' },
    });
  });
  it('is duplicated beside it', async () => {
    const { act } = await shelf();
    await act('Duplicate');
    await screen.findByRole('link', { name: 'Open Boats, copy' });
    expect(screen.getByRole('link', { name: 'Open Boats' })).toBeTruthy();
  });
  it('is deleted, and brought back by one press', async () => {
    const { user, act } = await shelf();
    await act('Delete');
    await waitFor(() => expect(screen.queryByRole('link', { name: 'Open Boats' })).toBeNull());
    await user.click(await screen.findByRole('button', { name: 'Undo' }));
    await screen.findByRole('link', { name: 'Open Boats' });
  });
  it('is found in the bin, with when it was deleted, and put back from there', async () => {
    const { user, act } = await shelf();
    await user.click(screen.getByRole('button', { name: 'Bin' }));
    await screen.findByText('Nothing was deleted in the last thirty days.');
    await user.click(screen.getByRole('button', { name: 'Close' }));
    await act('Delete');
    await waitFor(() => expect(screen.queryByRole('link', { name: 'Open Boats' })).toBeNull());
    await user.click(screen.getByRole('button', { name: 'Bin' }));
    await screen.findByText('deleted 3 Nov 2026, 09:30');
    await user.click(screen.getByRole('button', { name: 'Put Boats back' }));
    await screen.findByRole('link', { name: 'Open Boats' });
    await screen.findByText('Nothing was deleted in the last thirty days.');
  });
});
