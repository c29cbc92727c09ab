import { address } from "../api/address";

/** Where a picture of the workspace is, unless it comes along. A learner's release has addresses of its own. */
export const mediaURL = (id: string) => (id.startsWith("data:") ? id : address(`/api/media/${id}`));
