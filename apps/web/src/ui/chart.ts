import { BarChart, LineChart } from 'echarts/charts';
import { AriaComponent, GridComponent, LegendComponent, MarkLineComponent, TooltipComponent } from 'echarts/components';
import { init, use as register, type ECharts, type EChartsCoreOption } from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';

register([BarChart, LineChart, GridComponent, LegendComponent, TooltipComponent, MarkLineComponent, AriaComponent, SVGRenderer]);

/** Draws a chart into a place and keeps it as wide as that; the function that is answered takes it away. Loaded with the first chart only. */
export function drawChart(place: HTMLElement, option: EChartsCoreOption, onPick?: (place: number) => void): () => void {
  const chart: ECharts = init(place, null, { renderer: 'svg' });
  chart.setOption({ animation: false, textStyle: { fontFamily: 'Hanken Grotesk Variable, sans-serif' }, ...option });
  if (onPick !== undefined) chart.on('click', ({ dataIndex }: { dataIndex?: number }) => dataIndex !== undefined && onPick(dataIndex));
  const watch = new ResizeObserver(() => chart.resize());
  watch.observe(place);
  return () => {
    watch.disconnect();
    chart.dispose();
  };
}
