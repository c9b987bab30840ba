/** Goes to a page of ours by a full load: who is signed in may be another from there on, and nothing of the present page stays. */
export const loadAnew = (path: string): void => window.location.assign(path);
