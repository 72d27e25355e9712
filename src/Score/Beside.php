<?php

declare(strict_types=1);

namespace App\Score;

use App\Http\Problem;
use App\Question\OpenCells;
use App\Table\TableColumn;
use Dokimos\Core\Profile\Association;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Task\CutOff;
use Dokimos\Core\Task\Task;

/** Holds two batches over the same records against each other. */
final readonly class Beside
{
    private const MOST = 12;
    /** Ranks are correlated over so many records, evenly spread. */
    private const RANKED = 20_000;

    public function __construct(private ScoredTables $scored, private OpenCells $reader)
    {
    }

    public function of(Scoring $first, Scoring $other): BesideView
    {
        if ($first->table() !== $other->table() || $first->task() !== $other->task() || $first->target() !== $other->target()) {
            throw Problem::invalid('Only batches of the same table, with answers of the same kind, stand beside each other.', 'other');
        }
        if (!$first->isDone() || !$other->isDone()) {
            throw new Problem(409, 'The scoring is not finished.');
        }
        [$a, $b] = [$this->scored->answers($first), $this->scored->answers($other)];
        $both = array_keys(array_filter($a, static fn (float $v, int $i): bool => !is_nan($v) && !is_nan($b[$i]), \ARRAY_FILTER_USE_BOTH));
        [$agree, $onlyFirst, $onlyOther] = $this->agreed($first, $other, $a, $b, $both);
        $several = Task::MORE === $first->task();
        $far = [];
        foreach ($both as $i) {
            $far[$i] = abs($a[$i] - $b[$i]);
        }
        $apart = $several || [] === $far ? null : array_sum($far) / \count($far);
        arsort($far, \SORT_NUMERIC);

        return new BesideView(
            $first->trial()->number(),
            $other->trial()->number(),
            \count($both),
            $agree,
            $onlyFirst,
            $onlyOther,
            self::ranks($a, $b, $both),
            $apart,
            $this->rows($first, $other, \array_slice(array_keys($far), 0, self::MOST)),
        );
    }

    /**
     * @param list<float> $a
     * @param list<float> $b
     * @param list<int>   $both
     *
     * @return array{?float, int, int}
     */
    private function agreed(Scoring $first, Scoring $other, array $a, array $b, array $both): array
    {
        if (Task::NUMBER === $first->task() || [] === $both) {
            return [null, 0, 0];
        }
        $alike = $onlyFirst = $onlyOther = 0;
        if (Task::MORE === $first->task()) {
            [$own, $theirs] = [$this->scored->classes($first), $this->scored->classes($other)];
            foreach ($both as $i) {
                $alike += $own[$i] === $theirs[$i] ? 1 : 0;
            }

            return [$alike / \count($both), 0, 0];
        }
        [$cut, $theirs] = [CutOff::at($first->cutoff()), CutOff::at($other->cutoff())];
        foreach ($both as $i) {
            [$x, $y] = [$cut->calls($a[$i]), $theirs->calls($b[$i])];
            $alike += $x === $y ? 1 : 0;
            $onlyFirst += $x && !$y ? 1 : 0;
            $onlyOther += $y && !$x ? 1 : 0;
        }

        return [$alike / \count($both), $onlyFirst, $onlyOther];
    }

    /**
     * @param list<float> $a
     * @param list<float> $b
     * @param list<int>   $both
     */
    private static function ranks(array $a, array $b, array $both): ?float
    {
        $step = max(1, (int) ceil(\count($both) / self::RANKED));
        $rows = array_values(array_filter($both, static fn (int $k): bool => 0 === $k % $step, \ARRAY_FILTER_USE_KEY));
        if (\count($rows) < 3) {
            return null;
        }

        return Association::spearman(
            array_map(static fn (int $i): float => $a[$i], $rows),
            array_map(static fn (int $i): float => $b[$i], $rows),
        )['rho'];
    }

    /**
     * @param list<int> $rows
     *
     * @return list<BesideRowView>
     */
    private function rows(Scoring $first, Scoring $other, array $rows): array
    {
        if ([] === $rows) {
            return [];
        }
        $key = null;
        foreach ($first->table()->columns() as $column) {
            $key ??= Kind::Identifier === $column->kind() ? $column : null;
        }
        $keys = $key instanceof TableColumn ? $this->reader->rows($first->table(), $rows, [$key->name()]) : [];
        [$own, $theirs] = [$this->scored->lines($first, $rows), $this->scored->lines($other, $rows)];
        $said = static fn (array $line): string => match ($first->task()) {
            Task::TWO => \sprintf('%.1f%%', 100 * (float) $line['chance']),
            Task::MORE => (string) ($line['class'] ?? ''),
            default => NumberColumn::write((float) \sprintf('%.4G', (float) ($line['number'] ?? 0.0))),
        };

        return array_map(
            static fn (int $row): BesideRowView => new BesideRowView(
                $row + 1,
                $keys[$row][0] ?? null,
                $said($own[$row]),
                $said($theirs[$row]),
            ),
            $rows,
        );
    }
}
