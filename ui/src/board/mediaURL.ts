/** Where a picture of the workspace is. A learner's release has addresses of its own. */
export const mediaURL = (id: string) => `/api/media/${id}`;
