/**
 * The shape of a page that is on its way: the same that stands in `public/index.html` before the scripts are
 * there.
 */
export function Coming({ withPlaces = false }: { withPlaces?: boolean }) {
  return (
    <div className="coming" role="status" aria-label="Loading the page">
      {withPlaces ? <div /> : null}
      <div>
        <i />
        <b />
        <b />
        <b />
      </div>
    </div>
  );
}
