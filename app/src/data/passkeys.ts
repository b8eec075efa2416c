import type {
  PublicKeyCredentialCreationOptionsJSON,
  PublicKeyCredentialRequestOptionsJSON,
} from '@simplewebauthn/browser';
import { accountChanged } from './account';
import { beginAnew } from './auth';
import { Refusal, call } from './client';

/** Tells whether this browser can have passkeys at this address: by https, or on the machine itself. */
export const hasPasskeys = (): boolean =>
  globalThis.isSecureContext && typeof globalThis.PublicKeyCredential === 'function';

/** The package that talks to the browser, loaded when it is wanted. */
const browser = () => import('@simplewebauthn/browser');

/** Gives what a browser or a device refused, in words. */
const inBrowser = <T>(work: Promise<T>): Promise<T> =>
  work.catch((error: unknown) => {
    if (error instanceof Refusal) throw error;
    throw new Refusal({
      type: 'urn:zephyrfield:passkey',
      title: 'Your device did not do it.',
      status: 422,
      remedy: 'It may have been cancelled, or taken too long. Try again, or use your password.',
    });
  });

/** Makes a passkey on this device, or on one beside it. @throws Refusal */
export async function makePasskey(name: string, password: string): Promise<void> {
  const options = await call('beginPasskey', { body: { password } });
  const { startRegistration } = await browser();
  const optionsJSON = options as unknown as PublicKeyCredentialCreationOptionsJSON;
  const response = await inBrowser(startRegistration({ optionsJSON }));
  await call('keepPasskey', { body: { response: { ...response }, name } });
  await accountChanged();
}

/** @throws Refusal */
export async function removePasskey(id: string): Promise<void> {
  await call('removePasskey', { params: { id } });
  await accountChanged();
}

/** Signs in by a passkey. @throws Refusal */
export async function signInByPasskey(): Promise<void> {
  const options = await call('passkeyChallenge');
  const { startAuthentication } = await browser();
  const optionsJSON = options as unknown as PublicKeyCredentialRequestOptionsJSON;
  const response = await inBrowser(startAuthentication({ optionsJSON }));
  await call('passkeySignIn', { body: { response: { ...response } } });
  await beginAnew();
}
