import { address } from "../api/address";

/** Where a picture of the workspace is. A learner's release has addresses of its own. */
export const mediaURL = (id: string) => address(`/api/media/${id}`);
