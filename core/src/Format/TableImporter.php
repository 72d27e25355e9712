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
    /** Bytes that are enough for a first look: some ten thousand records of most files. */
    private const FIRST = 2 << 20;

    public function __construct(private Dialect $dialect, private FrameSink $sink)
    {
    }

    /**
     * @param \Closure(): iterable<string>                $blocks the bytes of the source from the start; may be asked for twice
     * @param array<string, Kind>                         $kinds  kinds settled beforehand, by column name
     * @param ?list<string>                               $only   read these columns alone
     * @param array{int, int}                             $share  [i, n]: read every n-th column from the i-th on, so that n workers share a table
     * @param ?\Closure(int, string, EncodedColumn): void $ready  told of each column, with its position and name, once it is finished
     */
    public function import(\Closure $blocks, array $kinds = [], ?array $only = null, ?int $bytes = null, ?Progress $progress = null, array $share = [0, 1], ?\Closure $ready = null): ImportedTable
    {
        $progress ??= new Silent();
        $parser = new CellParser($this->dialect->decimal, $this->dialect->missing, $this->dialect->thousands, $this->dialect->dates);
        $seen = 0;
        $counted = static function () use ($blocks, &$seen): \Generator {
            foreach ($blocks() as $block) {
                $seen += \strlen($block);
                yield $block;
            }
        };
        $reader = $this->dialect->reader($counted);
        /** @var array<int, ColumnEncoder> $encoders */
        $encoders = [];
        $frame = $held = 0;
        foreach ($reader->batches(share: $share) as $batch) {
            if (0 === $frame + $held) {
                foreach ($reader->names() as $j => $name) {
                    if ($j % $share[1] === $share[0] && (null === $only || \in_array($name, $only, true))) {
                        $encoders[$j] = new ColumnEncoder($parser, $kinds[$name] ?? null);
                    }
                }
            }
            $held = $this->encode($encoders, $batch, $frame, $held);
            if (0 === $held) {
                ++$frame;
                if (null !== $bytes && $bytes > 0) {
                    $progress->report(min(0.9, 0.9 * $seen / $bytes), \sprintf('%s records read', number_format($reader->records())));
                }
            }
        }
        $this->hand($encoders, $frame, $held);
        $this->readAgain($blocks, array_filter($encoders, static fn (ColumnEncoder $e) => $e->outdated()), $encoders);
        $columns = [];
        foreach ($encoders as $j => $encoder) {
            $columns[$j] = $encoder->finish();
            unset($encoders[$j]);
            if (null !== $ready) {
                $ready($j, $reader->names()[$j], $columns[$j]);
            }
            $progress->report(0.9 + 0.1 * \count($columns) / (\count($columns) + \count($encoders)), 'profiling');
        }
        ksort($columns);

        return new ImportedTable($reader->names(), $columns, $reader->records(), $reader->repairs());
    }

    /**
     * What the beginning of a source says of its columns; nothing is kept of the cells.
     *
     * @param \Closure(): iterable<string> $blocks
     * @param array<string, Kind>          $kinds
     * @param array{int, int}              $share
     */
    public static function first(Dialect $dialect, \Closure $blocks, array $kinds = [], array $share = [0, 1]): ImportedTable
    {
        $beginning = static function () use ($blocks): \Generator {
            $bytes = '';
            foreach ($blocks() as $block) {
                $bytes .= $block;
                if (\strlen($bytes) >= self::FIRST) {
                    $bytes = substr($bytes, 0, (int) strrpos($bytes, "\n"));
                    break;
                }
            }
            yield $bytes;
        };

        return (new self($dialect, new NoFrames()))->import($beginning, $kinds, share: $share);
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
        $reader = $this->dialect->reader($blocks);
        $again = array_intersect_key($encoders, $outdated);
        $frame = $held = 0;
        foreach ($reader->batches() as $batch) {
            $held = $this->encode($again, $batch, $frame, $held);
            $frame += 0 === $held ? 1 : 0;
        }
        $this->hand($again, $frame, $held);
    }

    /**
     * Adds a batch to the frames at hand and hands them over when they are full.
     *
     * @param array<int, ColumnEncoder> $encoders
     *
     * @return int rows now held in the frame at hand
     */
    private function encode(array $encoders, Batch $batch, int $frame, int $held): int
    {
        foreach ($encoders as $j => $encoder) {
            $encoder->take($batch->columns[$j]);
        }
        $held += $batch->rows;
        if ($held < FrameCodec::ROWS) {
            return $held;
        }
        $this->hand($encoders, $frame, $held);

        return 0;
    }

    /** @param array<int, ColumnEncoder> $encoders */
    private function hand(array $encoders, int $frame, int $rows): void
    {
        if ($rows > 0) {
            foreach ($encoders as $j => $encoder) {
                $this->sink->frame($j, $frame, $encoder->frame(), $rows);
            }
        }
    }
}
