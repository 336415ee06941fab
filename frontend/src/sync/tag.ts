/** What the page asks the browser to say to the service worker once there is a network again. */
export const TAG = "lauf.unsent";
