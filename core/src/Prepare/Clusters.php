<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Math\Lloyd;
use Dokimos\Core\Setting;
use Dokimos\Core\Table\Kind;

/** Groups rows that are alike in some numbers: k-means on standardized columns, learned on training rows. */
final readonly class Clusters implements Step
{
    private const SEED = 1;
    private const MOST_ROWS = 10000;
    private const ROWS_TO_SUGGEST = 800;
    private const MOST_SUGGESTED = 8;

    public function __construct(private Chosen $columns, private int $count, private string $name)
    {
    }

    public static function described(): Described
    {
        return new Described('clusters', 'Group rows that are alike', 'combine', 'Makes a category of groups of rows that are near each other in some numbers (k-means).', [
            new Setting('columns', 'Columns', Setting::COLUMNS, kinds: [Kind::Number->value]),
            new Setting('count', 'how many groups (0: as many as part best)', Setting::NUMBER, default: 0, least: 0, most: 50),
            new Setting('name', 'New column', Setting::TEXT, default: 'group'),
        ]);
    }

    /** @throws CannotPrepare One group parts nothing; say 2 or more, or 0. */
    public static function fromSettings(Settings $given): self
    {
        $count = $given->whole('count', 0, 0, 50);

        return new self($given->columns(), 1 === $count ? throw new CannotPrepare('One group parts nothing; say 2 or more, or 0.') : $count, '' === trim($given->text('name', 'group')) ? 'group' : trim($given->text('name', 'group')));
    }

    public function toArray(): array
    {
        return ['step' => 'clusters', 'count' => $this->count, 'name' => $this->name] + $this->columns->toArray();
    }

    /** @throws CannotPrepare Too few different training rows have a value in all of these columns. Fill what is missing first, or ask… */
    public function fit(Lesson $lesson): FittedClusters
    {
        $names = $this->columns->among($lesson->table, $lesson->rows, [Kind::Number], 'can be compared for nearness');
        $means = $sds = $columns = [];
        foreach ($names as $name) {
            $values = $lesson->table->number($name)->values;
            $known = array_filter(array_map(static fn (int $r) => $values[$r], $lesson->rows), static fn (float $v) => $v === $v);
            $mean = [] === $known ? 0.0 : array_sum($known) / \count($known);
            $sd = sqrt(array_sum(array_map(static fn (float $v) => ($v - $mean) ** 2, $known)) / max(1, \count($known) - 1));
            $means[] = $mean;
            $sds[] = $sd > 0.0 ? $sd : 1.0;
            $columns[] = $values;
        }
        $points = [];
        $step = max(1, intdiv(\count($lesson->rows), self::MOST_ROWS));
        foreach ($lesson->rows as $i => $row) {
            $point = FittedClusters::point($columns, $means, $sds, $row);
            if (null !== $point && 0 === $i % $step) {
                $points[] = $point;
            }
        }
        $distinct = \count(array_unique(array_map(static fn (array $p) => implode(' ', $p), $points)));
        if ([] === $names || $distinct < max(2, $this->count)) {
            throw new CannotPrepare('Too few different training rows have a value in all of these columns. Fill what is missing first, or ask for fewer groups.');
        }
        $count = $this->count > 0 ? $this->count : self::suggested($points, $distinct);
        $found = Lloyd::drawn($points, $count, self::SEED);
        // The largest group is the first, so that names do not depend on the draw.
        $sizes = array_count_values($found->labels);
        $order = array_keys($found->centers);
        usort($order, static fn (int $a, int $b) => ($sizes[$b] ?? 0) <=> ($sizes[$a] ?? 0) ?: $found->centers[$a] <=> $found->centers[$b]);

        return new FittedClusters($names, $means, $sds, array_map(static fn (int $i) => $found->centers[$i], $order), $this->name, $found->silhouette($points));
    }

    /** @param list<list<float>> $points */
    private static function suggested(array $points, int $distinct): int
    {
        $step = max(1, intdiv(\count($points), self::ROWS_TO_SUGGEST));
        $some = array_values(array_filter($points, static fn (int $i) => 0 === $i % $step, \ARRAY_FILTER_USE_KEY));
        $best = 2;
        $most = -\INF;
        for ($k = 2; $k <= min(self::MOST_SUGGESTED, $distinct - 1, \count($some) - 1); ++$k) {
            $silhouette = Lloyd::drawn($some, $k, self::SEED, 1)->silhouette($some);
            if ($silhouette > $most + 1e-9) {
                $most = $silhouette;
                $best = $k;
            }
        }

        return $best;
    }
}
