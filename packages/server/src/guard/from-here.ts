import type { FastifyRequest } from 'fastify';

const loopback = /^(::1|(::ffff:)?127\.\d+\.\d+\.\d+)$/;

/** Whether a request comes from this very machine: by its address, and through no proxy. */
export const isFromHere = ({ ip, headers }: FastifyRequest): boolean =>
  loopback.test(ip) && headers['x-forwarded-for'] === undefined && headers.forwarded === undefined;
