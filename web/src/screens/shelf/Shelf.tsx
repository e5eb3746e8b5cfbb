import { Plus } from 'lucide-react';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { useInLights } from '../../light/light';
import { Picker } from '../../parts/Picker';
import { Failed, Waiting } from '../../parts/Waiting';
import { useJars } from '../../state/jars';
import { usePaints, usePaintsSoFar } from '../../state/workspace';
import { EmptyShelf } from './EmptyShelf';
import { Files } from './Files';
import { NewPaint } from './NewPaint';
import { arrange, EVERYTHING, filters, isSought, SORTS, type Sort } from './order';
import { PaintPage } from './PaintPage';
import { Head, Row } from './Row';

/** What is on hand, as one wall of drawdowns; one of them opened beside it. */
export function Shelf() {
  const { id } = useParams();
  const go = useNavigate();
  const paints = usePaints();
  const soFar = usePaintsSoFar();
  const tins = paints.data ?? soFar;
  const [sort, setSort] = useState<Sort>('added');
  const [filter, setFilter] = useState<string>(EVERYTHING);
  const [sought, setSought] = useState('');
  const open = tins?.find((paint) => paint.id === id);
  useInLights(open?.swatch.lights.map((hex) => [hex]));

  // A list that was seen in this light before may not know the paint yet.
  const unknown = id !== undefined && id !== 'new' && !open && paints.isFetching;
  if (paints.isError && !paints.data) return <Failed error={paints.error} retry={() => paints.refetch()} />;
  if (!tins || unknown) return <Waiting rows={14} />;
  const choices = filters(tins);
  const untested = tins.find((paint) => !paint.medium && !paint.house_white && paint.known.readings === 0);
  const at = choices.some((choice) => choice.id === filter) ? filter : EVERYTHING;
  const shown = arrange(tins, sort, at).filter((paint) => isSought(paint, sought));
  return (
    <div className="flex h-full flex-col lg:flex-row">
      <section
        aria-label="Shelf"
        className={`flex min-w-0 flex-col ${open ? 'max-lg:hidden lg:w-72 lg:shrink-0 wide:w-96' : id ? 'flex-1 max-lg:hidden' : 'flex-1'}`}
      >
        <div className="flex flex-wrap items-center gap-2 px-4 pb-2 pt-1 md:px-5">
          <h1 className={`text-3xl ${open ? 'mr-auto' : 'mr-3 max-sm:mr-auto'}`}>Shelf</h1>
          {tins.length > 0 && (
            <>
              <div className={open ? '' : 'sm:order-last'}>
                <Files />
              </div>
              {!open && <ToJars />}
              <button
                type="button"
                className={`press press-ink ${open ? 'px-0' : 'sm:order-last'}`}
                aria-label="Add a paint"
                data-mark="add a paint"
                onClick={() => go('/shelf/new')}
              >
                <Plus size={20} aria-hidden /> {!open && 'Add a paint'}
              </button>
              <div className={`flex gap-2 ${open ? 'w-full flex-wrap' : 'mr-auto max-sm:w-full'}`}>
                <input
                  type="search"
                  aria-label="Search the shelf"
                  placeholder="Search"
                  value={sought}
                  onChange={(event) => setSought(event.target.value)}
                  className={`field ${open ? '' : 'min-w-0 max-sm:flex-1 sm:w-44'}`}
                  autoComplete="off"
                />
                <Picker
                  label="Show"
                  choices={choices}
                  value={at}
                  onChange={setFilter}
                  className={open ? 'min-w-0 flex-1' : ''}
                />
                <Picker
                  label="Sort"
                  choices={SORTS}
                  value={sort}
                  onChange={(next) => setSort(next as Sort)}
                  className={open ? 'min-w-0 flex-1' : ''}
                />
              </div>
            </>
          )}
        </div>
        {!paints.data && (
          <p className="px-4 pb-2 text-sm md:px-5">{tins.length} tins so far, more are coming</p>
        )}
        {tins.length === 0 ? (
          <EmptyShelf onAdd={() => go('/shelf/new')} />
        ) : (
          <>
            <Head narrow={open !== undefined} />
            <ul aria-label="Paints and mediums" className="relative min-h-0 flex-1 overflow-auto pb-4">
              {shown.map((paint) => (
                <Row
                  key={paint.id}
                  paint={paint}
                  marked={paint.id === untested?.id}
                  open={paint.id === id}
                  narrow={open !== undefined}
                  onOpen={() => go(`/shelf/${paint.id}`)}
                />
              ))}
            </ul>
            {shown.length === 0 && (
              <p className="px-4 pb-4 md:px-5">No matches. Try fewer words or show all.</p>
            )}
          </>
        )}
      </section>
      {id === 'new' && <NewPaint onClose={() => go('/shelf')} onMade={(paint) => go(`/shelf/${paint.id}`)} />}
      {open && (
        <PaintPage
          key={open.id}
          paint={open}
          shelf={tins}
          onClose={() => go('/shelf')}
          onGo={(to) => go(`/shelf/${to}`)}
        />
      )}
    </div>
  );
}

/** The way to what is left of earlier pots, and how many of them need a look. */
function ToJars() {
  const jars = useJars().data;
  if (!jars || jars.jars.length === 0) return null;
  const count = jars.jars.length === 1 ? '1 jar' : `${jars.jars.length} jars`;
  return (
    <Link to="/jars" className="press press-bare sm:order-last">
      {jars.to_see_to > 0 ? `${count}, ${jars.to_see_to} to see to` : count}
    </Link>
  );
}
