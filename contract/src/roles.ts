/** In whose name something is asked: accounts of people, a team's tablet, a projector, and whoever has not said. */
export const accountRoles = ['owner', 'teacher', 'guest'] as const;
export type AccountRole = (typeof accountRoles)[number];
export const roles = [...accountRoles, 'team', 'board', 'nobody'] as const;
export type Role = (typeof roles)[number];

/** What the office of all schools may limit in one of them. */
export const limited = ['accounts', 'classes', 'robots'] as const;
export type Limited = (typeof limited)[number];

/** What a role is called, and what it may do, in words. */
export const roleWords: Record<AccountRole, { word: string; says: string }> = {
  owner: { word: 'owner', says: 'Everything, and who has an account.' },
  teacher: { word: 'teacher', says: 'Classes, hours, lessons, kits and robots.' },
  guest: {
    word: 'guest colleague',
    says: 'Looks at lessons and at the classes you choose, changes nothing.',
  },
};

export const isAccount = (role: Role): role is AccountRole =>
  (accountRoles as readonly string[]).includes(role);
/** Whether a role may change things of the school. */
export const isStaff = (role: Role): boolean => role === 'owner' || role === 'teacher';
