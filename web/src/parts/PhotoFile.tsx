import { Camera, ImageUp } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { useCamera } from '../state/camera';
import { FileChoice } from './FileChoice';
import { useDeed } from './useDeed';

/** Chooses a photo from the machine, or takes one with the camera at hand. */
export function PhotoFile({ name, onChosen }: { name: string; onChosen: (file: File) => void }) {
  const { camera, take } = useCamera();
  const { attempt, busy } = useDeed();
  return (
    <>
      <FileChoice name={name} icon={ImageUp} accept="image/*" onChosen={onChosen} />
      {camera?.name && (
        <DropdownMenu.Root>
          <DropdownMenu.Trigger className="press press-plain" disabled={busy}>
            <Camera size={20} aria-hidden /> {camera.name}
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content
              align="start"
              sideOffset={4}
              className="z-50 rounded bg-paper p-1 shadow-lg"
            >
              {camera.scenes.map((scene) => (
                <DropdownMenu.Item
                  key={scene.id}
                  className="menu-item"
                  onSelect={() => attempt('No picture was taken', async () => onChosen(await take(scene.id)))}
                >
                  {scene.name}
                </DropdownMenu.Item>
              ))}
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
      )}
    </>
  );
}
