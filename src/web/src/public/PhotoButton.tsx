import { Button } from '@mui/material';
import { useRef } from 'react';

/** Asks for a photo: of the camera on a phone, of a file elsewhere. */
export function PhotoButton(props: {
  text: string;
  label: string;
  isBusy?: boolean;
  onPhoto: (photo: File) => void;
}) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button
        variant="outlined"
        color="inherit"
        disabled={props.isBusy ?? false}
        onClick={() => input.current?.click()}
      >
        {props.text}
      </Button>
      <input
        ref={input}
        type="file"
        accept="image/jpeg,image/png,image/webp"
        aria-label={props.label}
        hidden
        onChange={(event) => {
          const photo = event.target.files?.[0];
          if (photo) props.onPhoto(photo);
          // The same file may be chosen once more.
          event.target.value = '';
        }}
      />
    </>
  );
}
