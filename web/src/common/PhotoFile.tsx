import { Camera, ImageUp } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { FileChoice } from '../parts/FileChoice';
import { Menu } from '../parts/Menu';
import { useAction } from '../parts/useAction';
import { useCamera } from '../state/camera';

/** Chooses a photo from the machine, or takes one with the camera at hand. */
export function PhotoFile({ name, onChosen }: { name: string; onChosen: (file: File) => void }) {
  const { camera, take } = useCamera();
  const { attempt, busy } = useAction();
  return (
    <>
      <FileChoice name={name} icon={ImageUp} accept="image/*" onChosen={onChosen} />
      {camera?.name && (
        <Menu
          button={
            <button type="button" className="press press-plain" disabled={busy}>
              <Camera size={20} aria-hidden /> {camera.name}
            </button>
          }
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
        </Menu>
      )}
    </>
  );
}
