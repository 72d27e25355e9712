<?php

declare(strict_types=1);

namespace App\Score;

use App\Storage\CellStore;
use App\Table\DataTable;
use App\Table\TableColumn;
use App\Table\TableReader;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\FrameCodec;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Task\CutOff;
use Dokimos\Core\Task\Task;

/**
 * Scored records as a table in chunks: written chunk by chunk under a lease, read frame by frame. Its rows are those of the table that was
 * scored, in the same order.
 *
 * @phpstan-type Line array{chance: ?float, number?: ?float, class?: ?string, shares?: list<float>, why: ?string, reasons: string}
 */
final readonly class ScoredTables
{
    public const CHUNK = FrameCodec::ROWS * CellStore::FRAMES;
    /** Where the order by answer is kept, highest first: beside those of the columns. */
    private const HIGHEST_FIRST = -1;
    private const BINS = 40;

    public function __construct(private CellStore $store, private TableReader $reader)
    {
    }

    public static function begin(Scoring $scoring): DataTable
    {
        $name = \sprintf('%s, scored', mb_substr($scoring->table()->name(), 0, 110));
        $table = DataTable::scored($scoring->study(), $name, $scoring->table()->rows());
        $position = 0;
        foreach ($scoring->columns()->columns as $title => [$kind, $levels]) {
            $column = new TableColumn($table, $position++, mb_substr((string) $title, 0, 255));
            $column->describe($kind, $levels, [], [], 0);
            $table->addColumn($column);
        }

        return $table;
    }

    /** @param iterable<list<Line>> $frames lines of each frame of the chunk */
    public function write(Scoring $scoring, int $chunk, iterable $frames): void
    {
        $form = $scoring->columns();
        $columns = [];
        foreach ($frames as $lines) {
            foreach ($form->frames($lines) as $position => $bytes) {
                $columns[$position][] = [$bytes, \count($lines)];
            }
        }
        $chunks = [];
        foreach ($columns as $position => $own) {
            $chunks[] = ['position' => $position, 'chunk' => $chunk, 'frames' => $own];
        }
        $this->store->write($scoring->answers()->id(), $chunks);
    }

    /**
     * What a batch says of all its records, frame by frame.
     *
     * @return array{scored: int, called: int, summary: array{histogram: list<int>, expected: float, classes: array<array-key, int>, lowest: ?float, highest: ?float, mean: ?float}}
     */
    public function summed(Scoring $scoring): array
    {
        $isNumber = Task::NUMBER === $scoring->task();
        $cutoff = Task::TWO === $scoring->task() ? CutOff::at($scoring->cutoff()) : null;
        $classes = [];
        foreach (Task::MORE === $scoring->task() ? $this->columns($scoring, 0) : [] as $part) {
            foreach ($part instanceof CodedColumn ? $part->codes : [] as $code) {
                if ($code >= 0) {
                    $classes[$code] = ($classes[$code] ?? 0) + 1;
                }
            }
        }
        [$lowest, $highest] = $isNumber ? $this->ends($scoring) : [0.0, 1.0];
        $histogram = array_fill(0, self::BINS, 0);
        $scored = $called = 0;
        $sum = 0.0;
        foreach ($this->columns($scoring, $scoring->columns()->ordering()) as $part) {
            foreach ($part instanceof NumberColumn ? $part->values : [] as $value) {
                if (is_nan($value)) {
                    continue;
                }
                ++$scored;
                $sum += $value;
                $called += null !== $cutoff && $cutoff->calls($value) ? 1 : 0;
                $at = $isNumber ? ($highest > $lowest ? ($value - $lowest) / ($highest - $lowest) : 0.0) : $value;
                ++$histogram[min(self::BINS - 1, max(0, (int) floor(self::BINS * $at)))];
            }
        }
        $named = [];
        foreach ($classes as $code => $count) {
            $named[$scoring->classes()[$code]] = $count;
        }
        $numbers = $isNumber && $scored > 0;

        return ['scored' => $scored, 'called' => $called, 'summary' => ['histogram' => array_values($histogram), 'expected' => $isNumber ? 0.0 : $sum, 'classes' => $named, 'lowest' => $numbers ? $lowest : null, 'highest' => $numbers ? $highest : null, 'mean' => $numbers ? $sum / $scored : null]];
    }

    /** @return array{float, float} */
    private function ends(Scoring $scoring): array
    {
        [$lowest, $highest] = [\INF, -\INF];
        foreach ($this->columns($scoring, 0) as $part) {
            foreach ($part instanceof NumberColumn ? $part->values : [] as $value) {
                $lowest = $value < $lowest ? $value : $lowest;
                $highest = $value > $highest ? $value : $highest;
            }
        }

        return $lowest <= $highest ? [$lowest, $highest] : [0.0, 1.0];
    }

    /** @return \Generator<int, \Dokimos\Core\Table\Column> frame by frame */
    private function columns(Scoring $scoring, int $position): \Generator
    {
        $column = $scoring->answers()->columns()[$position];
        $walk = $this->reader->walk($scoring->answers(), [$column->name()]);
        $frames = (int) ceil($scoring->answers()->rows() / FrameCodec::ROWS);
        for ($frame = 0; $frame < $frames; ++$frame) {
            yield $walk->at($frame)->column($column->name());
        }
    }

    /**
     * @return list<float> per record what they are ordered by: the chance of the event or of the likeliest class, or the number; NAN = not scored
     */
    public function answers(Scoring $scoring): array
    {
        $column = $this->reader->column($scoring->answers()->columns()[$scoring->columns()->ordering()]);

        return $column instanceof NumberColumn ? $column->values : [];
    }

    /** @return list<list<float>> per record the chances of all classes; none where it was not scored */
    public function shares(Scoring $scoring): array
    {
        $shares = [];
        foreach ($this->stream($scoring) as $lines) {
            foreach ($lines as $line) {
                $shares[] = $line['shares'] ?? [];
            }
        }

        return $shares;
    }

    /** @return list<int> per record the place of its likeliest class; −1 = not scored */
    public function classes(Scoring $scoring): array
    {
        $column = $this->reader->column($scoring->answers()->columns()[0]);

        return $column instanceof CodedColumn ? $column->codes : [];
    }

    /**
     * Records by what is answered, highest first; of equal ones the earlier, those not scored last.
     *
     * @return list<int>
     */
    public function highestFirst(Scoring $scoring, int $from = 0, int $count = 1 << 28): array
    {
        $table = $scoring->answers()->id();
        $kept = $this->store->order($table, self::HIGHEST_FIRST, $from, $count);
        if (null !== $kept) {
            return $kept;
        }
        $keys = array_map(static fn (float $v): float => is_nan($v) ? \INF : -$v, $this->answers($scoring));
        asort($keys);
        $order = array_keys($keys);
        $this->store->keepOrder($table, self::HIGHEST_FIRST, $order);

        return \array_slice($order, $from, $count);
    }

    /**
     * @param list<int> $rows
     *
     * @return array<int, Line> by row
     */
    public function lines(Scoring $scoring, array $rows): array
    {
        $byFrame = [];
        foreach ($rows as $row) {
            $byFrame[CellStore::frameOf($row)][] = $row;
        }
        $out = [];
        foreach ($byFrame as $frame => $own) {
            $first = $frame * FrameCodec::ROWS;
            $lines = $scoring->columns()->lines($this->reader->part($scoring->answers(), null, $frame)->take(array_map(static fn (int $row): int => $row - $first, $own)));
            foreach ($own as $i => $row) {
                $out[$row] = $lines[$i];
            }
        }

        return $out;
    }

    /** @return \Generator<int, list<Line>> all lines, frame by frame */
    public function stream(Scoring $scoring): \Generator
    {
        $walk = $this->reader->walk($scoring->answers());
        $frames = (int) ceil($scoring->answers()->rows() / FrameCodec::ROWS);
        for ($frame = 0; $frame < $frames; ++$frame) {
            yield $frame => $scoring->columns()->lines($walk->at($frame));
        }
    }

    public function discard(Scoring $scoring): void
    {
        $this->store->discard($scoring->answers()->id());
    }
}
