import { useQuery } from '@tanstack/react-query';
import { type DeliveryFigures, FORMAT_LIST, FORMATS } from '@tolvik/core';
import { BarController, BarElement, CategoryScale, Chart, Legend, LinearScale, Tooltip } from 'chart.js';
import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import { request } from '../../api/client';
import { useOpenSession } from '../../project/session/context';
import { Button } from '../../ui/controls';
import { Sheet } from '../../ui/Sheet';
import { weight, when } from '../../ui/words';

Chart.register(BarController, BarElement, CategoryScale, LinearScale, Tooltip, Legend);

/** A colour for each format, told apart by how dark they are, too. */
const COLOURS = { svg: '#0c6a53', pdf: '#b4602a', png: '#7fb3a3', jpeg: '#d9c48f', eps: '#5d6b73' } as const;
const FONT = { family: '"Schibsted Grotesk", sans-serif', size: 12 };

const sum = ({ formats }: DeliveryFigures, of: 'files' | 'bytes') => formats.reduce((all, each) => all + each[of], 0);

/** How heavy deliveries were by format, drawn and in numbers. */
export function FiguresSheet({ onClose }: { onClose(): void }) {
  const { id } = useOpenSession();
  const { data, error } = useQuery({
    queryKey: ['figures', id],
    queryFn: () => request<{ deliveries: DeliveryFigures[] }>(`/projects/${id}/deliveries/figures`),
    staleTime: 0,
  });
  const figures = data?.deliveries ?? [];
  return (
    <Sheet
      open
      wide
      onClose={onClose}
      title="Deliveries in numbers"
      about="Deliveries of all files, by the size of each format."
      footer={<Button onClick={onClose}>Close</Button>}
    >
      {error && (
        <p role="alert" className="text-bad">
          {error.message}
        </p>
      )}
      {figures.length > 0 && (
        <>
          <WeightChart figures={figures} />
          <FiguresTable figures={figures} projectId={id} onGo={onClose} />
        </>
      )}
    </Sheet>
  );
}

/** A bar a delivery, its formats on top of each other. The table below says the same. */
function WeightChart({ figures }: { figures: readonly DeliveryFigures[] }) {
  const [canvas, setCanvas] = useState<HTMLCanvasElement | null>(null);
  useEffect(() => {
    if (!canvas) return;
    const formats = FORMAT_LIST.filter((format) =>
      figures.some((each) => each.formats.some((one) => one.format === format)),
    );
    const chart = new Chart(canvas, {
      type: 'bar',
      data: {
        labels: figures.map(({ number }) => `No. ${number}`),
        datasets: formats.map((format) => ({
          label: FORMATS[format].title,
          backgroundColor: COLOURS[format],
          data: figures.map(({ formats: all }) => all.find((one) => one.format === format)?.bytes ?? 0),
          maxBarThickness: 48,
        })),
      },
      options: {
        animation: false,
        maintainAspectRatio: false,
        scales: {
          x: { stacked: true, grid: { display: false }, ticks: { font: FONT } },
          y: { stacked: true, ticks: { font: FONT, callback: (bytes) => weight(Number(bytes)) } },
        },
        plugins: {
          legend: { position: 'bottom', labels: { font: FONT, boxWidth: 12 } },
          tooltip: { callbacks: { label: ({ dataset, raw }) => `${dataset.label}: ${weight(Number(raw))}` } },
        },
      },
    });
    return () => chart.destroy();
  }, [canvas, figures]);
  return (
    <div className="relative h-[260px]">
      <canvas
        ref={setCanvas}
        role="img"
        aria-label="Size of each delivery by format; the table below has the numbers"
      />
    </div>
  );
}

function FiguresTable({
  figures,
  projectId,
  onGo,
}: {
  figures: readonly DeliveryFigures[];
  projectId: string;
  onGo(): void;
}) {
  return (
    <table className="mt-4 w-full text-left tabular-nums">
      <thead>
        <tr className="border-ink border-b text-ink-2">
          <th className="py-1 font-normal">Delivery</th>
          <th className="py-1 font-normal">When</th>
          <th className="py-1 text-right font-normal">Files</th>
          <th className="py-1 text-right font-normal">Size</th>
          <th className="py-1 text-right font-normal">Made in</th>
        </tr>
      </thead>
      <tbody>
        {figures.toReversed().map((each) => (
          <tr key={each.id} className="border-line border-b">
            <td className="py-1">
              <Link
                to={`/projects/${projectId}/deliveries/${each.id}`}
                onClick={onGo}
                className="text-spruce underline"
              >
                No. {each.number}
                {each.title && `: ${each.title}`}
              </Link>
            </td>
            <td className="py-1">{when(each.at)}</td>
            <td className="py-1 text-right">{sum(each, 'files').toLocaleString('en')}</td>
            <td className="py-1 text-right">{weight(sum(each, 'bytes'))}</td>
            <td className="py-1 text-right">{each.seconds === null ? '' : `${each.seconds.toFixed(1)} s`}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
