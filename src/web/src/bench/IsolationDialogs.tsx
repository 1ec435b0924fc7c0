import { useDesk } from './desk';
import { useRun, useShown } from './useBench';
import { WordsDialog } from './WordsDialog';

/** How the lock is left where the item is not restored. */
export function LockDialog({ stays, onClose }: { stays: boolean; onClose: () => void }) {
  const run = useRun();
  return (
    <WordsDialog
      title={stays ? 'The lock stays on' : 'The lock comes off without restoring'}
      offered={[]}
      label={stays ? 'Whose lock it is, and who has the key' : 'How the place is left safe'}
      take={stays ? 'It stays on' : 'It is off'}
      note={
        stays
          ? 'It stands on the record with your name.'
          : 'Conductors made safe, cover on, nobody at work on it. What was proved dead counts no more.'
      }
      onTake={(words) => {
        void run.happen({ kind: 'lockLeft', stays, words });
        onClose();
      }}
      onClose={onClose}
    />
  );
}

export function IsolateAgainDialog({ onClose }: { onClose: () => void }) {
  const run = useRun();
  const desk = useDesk();
  const offered = useShown(({ sheet }) => sheet.phrases.isolateAgain);
  return (
    <WordsDialog
      title="Isolate from the first step: why?"
      offered={offered}
      label="In words"
      take="Begin again"
      note="What was proved stands no more. A lock that is on stays on until you say otherwise."
      onTake={(reason) => {
        void run.happen({ kind: 'isolationBegunAgain', reason });
        desk.choose(null);
        onClose();
      }}
      onClose={onClose}
    />
  );
}
