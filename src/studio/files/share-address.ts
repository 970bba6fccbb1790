/** Where other programs of a device share files to: see `share_target` in the manifest. */
export const SHARE = "/share";
/** The field that they come in. */
export const SHARED_FIELD = "pictures";
/** The Portfolio, told that something was shared. */
export const SHARED_PAGE = "/?shared";
