<script lang="ts">
  /**
   * Draws a barcode symbol. The drawing program is large and fetched when the first one is drawn; it lies on the device
   * for dead spots then.
   */
  let { symbol, text, wide = false }: { symbol: string; text: string; wide?: boolean } = $props();
  const kinds: Record<string, string> = {
    'gs1-datamatrix': 'gs1datamatrix',
    'gs1-128': 'gs1-128',
    code128: 'code128',
    qr: 'qrcode',
  };
  async function draw(symbol: string, text: string): Promise<string> {
    const { default: bwipjs } = await import('bwip-js/browser');
    const flat = symbol === 'code128' || symbol === 'gs1-128';
    return bwipjs.toSVG({
      bcid: kinds[symbol] ?? 'code128',
      text,
      ...(flat ? { height: 9, scale: 1 } : { scale: 1 }),
    });
  }
</script>

{#await draw(symbol, text)}
  <span class="none {symbol}" class:wide></span>
{:then svg}
  <img src="data:image/svg+xml;utf8,{encodeURIComponent(svg)}" alt="" class={symbol} class:wide />
{:catch}
  <span class="quiet none">no barcode can be drawn for this code</span>
{/await}

<style>
  img {
    width: 52px;
    height: 52px;
    object-fit: contain;
    flex: none;
  }
  .none {
    width: 76px;
    font-size: 12px;
    line-height: 1.2;
    flex: none;
  }
  span.none {
    min-height: 36px;
  }
  img.wide {
    width: 260px;
    height: 64px;
    background: #fff;
    padding: 4px;
  }
  .code128,
  .gs1-128 {
    width: 76px;
    height: 36px;
  }
</style>
