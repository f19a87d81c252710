/** The live line: the server says which topics have changed, and what is shown of them is asked for anew. */
import { HubConnectionBuilder, HubConnectionState, LogLevel } from '@microsoft/signalr';
import type { QueryClient } from '@tanstack/svelte-query';

export function listen(client: QueryClient, site: string): () => void {
  const line = new HubConnectionBuilder()
    .withUrl('/live')
    .withAutomaticReconnect([0, 500, 1000, 2000, 5000, 10000])
    .configureLogging(LogLevel.Error)
    .build();
  const refresh = (topics: string[]) =>
    client.invalidateQueries({ predicate: (query) => query.queryKey.some((part) => topics.includes(String(part))) });
  line.on('changed', (change: { topics: string[] }) => void refresh(change.topics));
  const join = async () => {
    if (line.state === HubConnectionState.Connected) await line.invoke('Join', site);
    await client.invalidateQueries();
  };
  line.onreconnected(join);
  // The first start is tried again by hand; from then on the line reconnects by itself.
  let stopped = false;
  const start = (): Promise<void> =>
    line.start().then(join, () => {
      if (!stopped) setTimeout(start, 2000);
    });
  void start();
  return () => {
    stopped = true;
    void line.stop();
  };
}
