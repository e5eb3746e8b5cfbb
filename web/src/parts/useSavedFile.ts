import { useTell } from './Notice';
import { why } from './useAction';

/** Draws a picture and hands it to the browser as a file of this name; says why where that fails. */
export function useSavedFile() {
  const tell = useTell();
  return async (name: string, draw: () => Promise<Blob>) => {
    try {
      const address = URL.createObjectURL(await draw());
      const link = document.createElement('a');
      link.href = address;
      link.download = name;
      link.click();
      URL.revokeObjectURL(address);
    } catch (error) {
      tell(`Couldn’t draw the picture: ${why(error)}`);
    }
  };
}
