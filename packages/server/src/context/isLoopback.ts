const LOOPBACK: readonly string[] = ['127.0.0.1', 'localhost', '::1', '[::1]'];

/** True for names of this machine that no other machine reaches, as addresses and Host headers write them. */
export const isLoopback = (host: string): boolean => LOOPBACK.includes(host);
