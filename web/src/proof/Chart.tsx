import { CustomChart, LineChart } from 'echarts/charts';
import { GridComponent, MarkLineComponent, TooltipComponent } from 'echarts/components';
import { init, use as register, type ECharts, type EChartsCoreOption } from 'echarts/core';
import { CanvasRenderer } from 'echarts/renderers';
import { useEffect, useRef } from 'react';

register([CustomChart, LineChart, GridComponent, MarkLineComponent, TooltipComponent, CanvasRenderer]);

interface ChartProps {
  readonly option: EChartsCoreOption;
  /** What the chart says, for those who do not see it; the table beside it says the rest. */
  readonly label: string;
  /** Called with the frame width at which the chart was pressed. */
  readonly onWidth?: (width: number) => void;
}

/** A chart that follows its room, and tells at which value of its horizontal axis it was pressed. */
export function Chart({ option, label, onWidth }: ChartProps) {
  const place = useRef<HTMLDivElement>(null);
  const chart = useRef<ECharts>(undefined);
  const press = useRef(onWidth);
  useEffect(() => {
    press.current = onWidth;
  });
  useEffect(() => {
    const element = place.current;
    if (!element) return undefined;
    const own = init(element, undefined, { renderer: 'canvas' });
    chart.current = own;
    const observer = new ResizeObserver(() => {
      own.resize();
    });
    observer.observe(element);
    own.getZr().on('click', ({ offsetX, offsetY }: { offsetX: number; offsetY: number }) => {
      if (!own.containPixel('grid', [offsetX, offsetY])) return;
      const [width] = own.convertFromPixel('grid', [offsetX, offsetY]) as [number, number];
      press.current?.(Math.round(width));
    });
    return () => {
      observer.disconnect();
      own.dispose();
    };
  }, []);
  useEffect(() => {
    chart.current?.setOption(option, { notMerge: true });
  }, [option]);
  return <div className="chart" ref={place} role="img" aria-label={label} />;
}
