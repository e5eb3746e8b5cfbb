import type { Form, PieceOnPhoto } from '../../../api/client';

interface Props {
  known: PieceOnPhoto;
  onForm: (form: Form) => void;
}

/** What the marks say of the dimensions where they contradict them, to be adopted in one touch. */
export function Fitting({ known: { fitting }, onForm }: Props) {
  if (!fitting) return null;
  return (
    <div className="grid gap-1">
      <p className="font-semibold">{fitting.words}. Check the marks, or measure again.</p>
      <button
        type="button"
        className="press press-plain justify-self-start"
        onClick={() => onForm(fitting.form)}
      >
        Use the dimensions of the photo
      </button>
    </div>
  );
}
