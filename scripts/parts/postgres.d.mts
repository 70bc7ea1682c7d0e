export function startPostgres(options: {
  folder: string;
  port: number;
  durable?: boolean;
}): Promise<{ url: string; pid: number; place: string; stop(): Promise<void> }>;
export function postgresBin(): string;
