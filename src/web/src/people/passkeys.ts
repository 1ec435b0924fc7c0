import { Problem } from '../api/client';

/** Whether this page can ask its device for a passkey: browsers keep them for names, not for numbers of a network, and only over TLS or on
 * the very machine. */
export const hasPasskeys = () =>
  window.isSecureContext &&
  'PublicKeyCredential' in window &&
  'parseCreationOptionsFromJSON' in PublicKeyCredential &&
  !/^[\d.]+$|[[:]/.test(window.location.hostname);

/** Asks the device to make a key, or to open the one it keeps; what it answers goes to the server as it is. */
async function asked(question: () => Promise<Credential | null>) {
  try {
    const answer = await question();
    if (answer) return (answer as PublicKeyCredential).toJSON() as unknown;
  } catch (refused) {
    if (refused instanceof DOMException && refused.name === 'InvalidStateError')
      throw new Problem(400, 'Not set up.', 'This device keeps a passkey for this account already.');
    if (!(refused instanceof DOMException)) throw refused;
  }
  throw new Problem(
    400,
    'The device gave no passkey.',
    'It was cancelled, took too long, or keeps none for this house.',
  );
}

export const makePasskey = (options: unknown) =>
  asked(() =>
    navigator.credentials.create({
      publicKey: PublicKeyCredential.parseCreationOptionsFromJSON(
        options as PublicKeyCredentialCreationOptionsJSON,
      ),
    }),
  );

export const showPasskey = (options: unknown) =>
  asked(() =>
    navigator.credentials.get({
      publicKey: PublicKeyCredential.parseRequestOptionsFromJSON(
        options as PublicKeyCredentialRequestOptionsJSON,
      ),
    }),
  );
