<?php

declare(strict_types=1);

namespace Dokimos\Core\Format;

use Dokimos\Core\Progress;
use Dokimos\Core\Silent;
use Dokimos\Core\Table\FrameCodec;
use Dokimos\Core\Table\Kind;

/** Reads a delimited text source into frames, kinds and profiles; memory does not grow with the rows but for distinct values. */
final readonly class TableImporter
{
    public function __construct(private Dialect $dialect, private FrameSink $sink)
    {
    }

    /**
     * @param \Closure(): iterable<string> $blocks the bytes of the source from the start; may be asked for twice
     * @param array<string, Kind>          $kinds  kinds settled beforehand, by column name
     * @param ?list<string>                $only   read these columns alone
     * @param array{int, int}              $share  [i, n]: read every n-th column from the i-th on, so that n workers share a table
     */
    public function import(\Closure $blocks, array $kinds = [], ?array $only = null, ?int $bytes = null, ?Progress $progress = null, array $share = [0, 1]): ImportedTable
    {
        $progress ??= new Silent();
        $parser = new CellParser($this->dialect->decimal);
        $seen = 0;
        $counted = static function () use ($blocks, &$seen): \Generator {
            foreach ($blocks() as $block) {
                $seen += \strlen($block);
                yield $block;
            }
        };
        $reader = new CsvReader($counted(), $this->dialect);
        /** @var array<int, ColumnEncoder> $encoders */
        $encoders = [];
        $frame = 0;
        foreach ($reader->batches(FrameCodec::ROWS, $share) as $batch) {
            if (0 === $frame) {
                foreach ($reader->names() as $j => $name) {
                    if ($j % $share[1] === $share[0] && (null === $only || \in_array($name, $only, true))) {
                        $encoders[$j] = new ColumnEncoder($parser, $kinds[$name] ?? null);
                    }
                }
            }
            foreach ($encoders as $j => $encoder) {
                $this->sink->frame($j, $frame, $encoder->add($batch->columns[$j]), $batch->rows);
            }
            ++$frame;
            if (null !== $bytes && $bytes > 0) {
                $progress->report(min(0.9, 0.9 * $seen / $bytes), \sprintf('%s records read', number_format($reader->records())));
            }
        }
        $this->readAgain($blocks, array_filter($encoders, static fn (ColumnEncoder $e) => $e->outdated()), $encoders);
        $columns = [];
        foreach ($encoders as $j => $encoder) {
            $columns[$j] = $encoder->finish();
            unset($encoders[$j]);
            $progress->report(0.9 + 0.1 * \count($columns) / (\count($columns) + \count($encoders)), 'profiling');
        }
        ksort($columns);

        return new ImportedTable($reader->names(), $columns, $reader->records(), $reader->repairs());
    }

    /**
     * @param \Closure(): iterable<string> $blocks
     * @param array<int, ColumnEncoder>    $outdated
     * @param array<int, ColumnEncoder>    $encoders
     */
    private function readAgain(\Closure $blocks, array $outdated, array &$encoders): void
    {
        if ([] === $outdated) {
            return;
        }
        foreach ($outdated as $j => $encoder) {
            $encoders[$j] = $encoder->again();
        }
        $reader = new CsvReader($blocks(), $this->dialect);
        $frame = 0;
        foreach ($reader->batches(FrameCodec::ROWS) as $batch) {
            foreach (array_keys($outdated) as $j) {
                $this->sink->frame($j, $frame, $encoders[$j]->add($batch->columns[$j]), $batch->rows);
            }
            ++$frame;
        }
    }
}
