export const ssr = false;
export const prerender = false;
