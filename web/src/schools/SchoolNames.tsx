import { Labelled } from '../ui/fields.tsx';
/** The two names of a school: the one that people read, and the one that they type. */
export function SchoolNames({
  name,
  setName,
  slug,
  setSlug,
}: {
  name: string;
  setName: (name: string) => void;
  slug: string;
  setSlug: (slug: string) => void;
}) {
  return (
    <>
      <Labelled label="its name">
        <input
          className="input w-full"
          maxLength={120}
          required
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
      </Labelled>
      <Labelled label="its short name, typed to sign in">
        <input
          className="input w-full font-mono"
          maxLength={40}
          required
          autoCapitalize="none"
          spellCheck={false}
          value={slug}
          onChange={(event) => setSlug(event.target.value)}
        />
      </Labelled>
    </>
  );
}
