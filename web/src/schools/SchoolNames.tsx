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
      <label className="flex flex-col gap-0.5">
        <span className="text-ink-2">its name</span>
        <input
          className="input w-full"
          maxLength={120}
          required
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
      </label>
      <label className="flex flex-col gap-0.5">
        <span className="text-ink-2">its short name, typed to sign in</span>
        <input
          className="input w-full font-mono"
          maxLength={40}
          required
          autoCapitalize="none"
          spellCheck={false}
          value={slug}
          onChange={(event) => setSlug(event.target.value)}
        />
      </label>
    </>
  );
}
