<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Boosting;

use Dokimos\Core\Design\Codes;
use Dokimos\Core\Design\RowCodes;
use Dokimos\Core\Learn\Tree\Gains;
use Dokimos\Core\Learn\Tree\Grove;
use Dokimos\Core\Learn\Tree\Packing;
use Dokimos\Core\Progress;
use Dokimos\Core\Task\Task;
use Random\Randomizer;

/** The rounds of boosting: slopes, a tree, sums, and a look at the rows kept back. */
final class Rounds
{
    public Grove $grove;
    /** @var list<float> */
    public array $starts = [];
    /** @var list<array{trees: int, training: float, validation: ?float}> */
    public array $curve = [];
    public int $best = 0;
    public int $done = 0;
    /** @var list<float> */
    private array $y;
    /** @var list<float> */
    private array $heldY;
    /** @var ?list<float> */
    private ?array $weights;
    /** @var ?list<float> */
    private ?array $heldWeights;
    private readonly Packing $packing;
    /** @var list<int> */
    private readonly array $places;
    /** @var array<int, float> of the rounds that are kept */
    private array $gains;
    /** @var array<int, float> of the rounds since the best one */
    private array $since;
    /** Codes of the training rows, where they are needed again. */
    private ?RowCodes $cells = null;

    /**
     * @param list<int>                            $rows
     * @param list<int>                            $held
     * @param array<string, string|float|int|bool> $settings
     * @param list<int>                            $rising
     */
    public function __construct(
        private readonly Loss $loss,
        private readonly Codes $codes,
        private readonly Task $task,
        private readonly array $rows,
        private readonly array $held,
        private readonly array $settings,
        private readonly array $rising,
        private readonly Randomizer $random,
    ) {
        $this->grove = new Grove();
        $this->y = self::of($task->outcome, $rows);
        $this->heldY = self::of($task->outcome, $held);
        $this->weights = null === $task->weights ? null : self::of($task->weights, $rows);
        $this->heldWeights = null === $task->weights ? null : self::of($task->weights, $held);
        $this->packing = new Packing(\count($rows));
        $this->places = [] === $rows ? [] : range(0, \count($rows) - 1);
        $this->gains = $this->since = array_fill(0, \count($codes->columns), 0.0);
    }

    /**
     * @param list<float> $list
     * @param list<int>   $rows
     *
     * @return list<float>
     */
    private static function of(array $list, array $rows): array
    {
        $out = [];
        foreach ($rows as $r) {
            $out[] = $list[$r];
        }

        return $out;
    }

    public function hasNegative(): bool
    {
        return min([0.0, ...$this->y]) < 0.0;
    }

    public function all(Progress $progress): void
    {
        $quantile = (float) $this->settings['quantile'];
        $heldCells = RowCodes::of($this->codes->of($this->task->table, $this->held), \count($this->held));
        $this->starts = $this->starts();
        $each = \count($this->starts);
        $sums = $heldSums = [];
        foreach ($this->starts as $start) {
            $sums[] = array_values(array_fill(0, \count($this->rows), $start));
            $heldSums[] = [] === $this->held ? [] : array_values(array_fill(0, \count($this->held), $start));
        }
        $patience = [] === $this->held ? \PHP_INT_MAX : (int) $this->settings['patience'];
        $least = \INF;
        $rounds = [] === $this->codes->columns ? 0 : (int) $this->settings['trees'];
        $engine = $this->engine();
        for ($round = 1; $round <= $rounds; ++$round) {
            $packed = $this->packed($sums, $quantile);
            for ($class = 0; $class < $each; ++$class) {
                $own = $sums[$class];
                $sums[$class] = [];
                $sums[$class] = $this->tree($engine, $packed[$class], $own, $quantile);
                $t = \count($this->grove->roots) - 1;
                if ([] !== $this->held) {
                    $heldSums[$class] = $this->grove->add($heldCells, $heldSums[$class], 0, $t, $t + 1);
                }
            }
            $this->done = $round;
            $loss = [] === $this->held ? null : $this->loss->mean($this->heldY, $heldSums, $this->heldWeights, $quantile);
            if (1 === $round || 0 === $round % 5 || $round === $rounds) {
                $this->curve[] = [
                    'trees' => $round,
                    'training' => $this->loss->mean($this->y, $sums, $this->weights, $quantile),
                    'validation' => $loss,
                ];
            }
            if (null === $loss || $loss < $least) {
                $least = $loss ?? $least;
                $this->best = $round;
                // What came since the best round may be thrown away; now it is kept.
                foreach ($this->since as $f => $gain) {
                    $this->gains[$f] += $gain;
                    $this->since[$f] = 0.0;
                }
            } elseif ($round - $this->best >= $patience) {
                break;
            }
            $progress->report($round / $rounds);
        }
        $this->grove->keep($this->best * $each);
    }

    private function engine(): HistogramTree
    {
        $sizes = $levels = [];
        foreach ($this->codes->columns as $f => $_) {
            $sizes[] = $this->codes->size($f);
            $levels[] = $this->codes->isLevels($f);
        }
        $depth = (int) $this->settings['depth'];

        return new HistogramTree(
            fn (array $some): array => array_values(array_filter(
                $this->codes->of($this->task->table, $this->rows, $some),
                static fn (array $column): bool => [] !== $column,
            )),
            $sizes,
            $levels,
            $this->packing,
            new TreeLimits(
                (int) $this->settings['leaves'],
                0 === $depth ? \PHP_INT_MAX : $depth,
                (float) $this->settings['leaf'],
                (float) $this->settings['ridge'],
                $this->rising,
                Loss::Quantile === $this->loss,
            ),
        );
    }

    /** @return list<float> the answer without a tree, on the scale of the sums */
    private function starts(): array
    {
        $all = $sum = 0.0;
        $counts = [];
        foreach ($this->y as $i => $y) {
            $w = $this->weights[$i] ?? 1.0;
            $all += $w;
            $sum += $w * $y;
            if (Loss::Several === $this->loss) {
                $counts[(int) $y] = ($counts[(int) $y] ?? 0.0) + $w;
            }
        }
        $mean = $sum / $all;
        switch ($this->loss) {
            case Loss::Log:
                // Half a record of each class is added: with one class only the odds would have no end.
                return [log(($sum + 0.5) / ($all - $sum + 0.5))];
            case Loss::Poisson:
                return [log(max(1e-9, $mean))];
            case Loss::Quantile:
                return [self::quantile($this->y, $this->weights, (float) $this->settings['quantile'])];
            case Loss::Several:
                return array_map(
                    static fn (int $k): float => log((($counts[$k] ?? 0.0) + 0.5) / $all),
                    array_keys($this->task->classes ?? []),
                );
            default:
                return [$mean];
        }
    }

    /**
     * The least value that as much weight stands at or below as is asked for.
     *
     * @param list<float>  $values
     * @param ?list<float> $weights
     */
    private static function quantile(array $values, ?array $weights, float $at): float
    {
        if (null === $weights) {
            sort($values);

            return [] === $values ? 0.0 : $values[min(\count($values) - 1, (int) floor($at * \count($values)))];
        }
        asort($values);
        $wanted = $at * array_sum($weights);
        $below = $last = 0.0;
        foreach ($values as $i => $value) {
            $below += $weights[$i];
            $last = $value;
            if ($below > $wanted) {
                break;
            }
        }

        return $last;
    }

    /**
     * Leaves that were given another value keep to what the model may only rise or fall with: at such a division the left side does not pass
     * the right one.
     *
     * @param list<Sprout> $sprouts
     */
    private function keepOrder(array $sprouts, int $at = 0, float $low = -\INF, float $high = \INF): void
    {
        $s = $sprouts[$at];
        if ($s->left < 0) {
            $s->value = max($low, min($high, $s->value));

            return;
        }
        $rising = null === $s->best?->left ? $this->rising[$s->best->feature ?? 0] : 0;
        if (0 === $rising) {
            $this->keepOrder($sprouts, $s->left, $low, $high);
            $this->keepOrder($sprouts, $s->right, $low, $high);

            return;
        }
        [$lower, $upper] = $rising > 0 ? [$s->left, $s->right] : [$s->right, $s->left];
        $between = max($low, min($high, 0.5 * (max(self::leaves($sprouts, $lower)) + min(self::leaves($sprouts, $upper)))));
        $this->keepOrder($sprouts, $lower, $low, $between);
        $this->keepOrder($sprouts, $upper, $between, $high);
    }

    /**
     * @param list<Sprout> $sprouts
     *
     * @return non-empty-list<float> what the leaves below say
     */
    private static function leaves(array $sprouts, int $at): array
    {
        return $sprouts[$at]->left < 0 ? [$sprouts[$at]->value] : [
            ...self::leaves($sprouts, $sprouts[$at]->left),
            ...self::leaves($sprouts, $sprouts[$at]->right),
        ];
    }

    /**
     * @param list<list<float>> $sums
     *
     * @return list<array{list<int>, float, float}> per class: slope and curvature of every row, as Packing gives them
     */
    private function packed(array $sums, float $quantile): array
    {
        if (Loss::Log === $this->loss && null === $this->weights) {
            return [$this->packing->ofOdds($this->y, $sums[0])];
        }
        if (Loss::Several !== $this->loss) {
            return [$this->packing->pack(...$this->loss->slopes($this->y, $sums[0], $this->weights, $quantile))];
        }
        $out = [];
        foreach (Loss::shares($sums) as $class => $shares) {
            $g = $h = [];
            foreach ($shares as $i => $p) {
                $w = null === $this->weights ? 1.0 : $this->weights[$i];
                $g[] = $w * (((int) $this->y[$i] === $class ? 1.0 : 0.0) - $p);
                $h[] = $w * max(1e-6, $p * (1.0 - $p));
            }
            $out[] = $this->packing->pack($g, $h);
        }

        return $out;
    }

    /**
     * Grows one tree and adds it to the sums of the training rows.
     *
     * @param array{list<int>, float, float} $slopes as Packing gives them
     * @param list<float>                    $sums
     *
     * @return list<float>
     */
    private function tree(HistogramTree $engine, array $slopes, array $sums, float $quantile): array
    {
        [$packed, $gradientStep, $curveStep] = $slopes;
        $n = \count($this->rows);
        $rows = $this->places;
        $sampled = (float) $this->settings['rows'] < 1.0;
        if ($sampled) {
            $rows = \array_slice($this->random->shuffleArray($rows), 0, max(1, (int) round((float) $this->settings['rows'] * $n)));
            sort($rows);
        }
        $columns = \count($this->codes->columns);
        $use = array_fill(0, $columns, true);
        if ((float) $this->settings['columns'] < 1.0) {
            $some = array_flip(\array_slice(
                $this->random->shuffleArray(range(0, $columns - 1)),
                0,
                max(1, (int) round((float) $this->settings['columns'] * $columns)),
            ));
            $use = array_map(static fn (int $f) => isset($some[$f]), range(0, $columns - 1));
        }
        $sprouts = $engine->grow($rows, $packed, $gradientStep, $curveStep, $use);
        $rate = (float) $this->settings['rate'];
        foreach ($sprouts as $s) {
            if ($s->left >= 0) {
                $this->since[$s->best->feature ?? 0] += $s->best->gain ?? 0.0;
                continue;
            }
            if (Loss::Quantile === $this->loss) {
                $own = $engine->rows($s);
                $s->value = self::quantile(
                    array_map(fn (int $r): float => $this->y[$r] - $sums[$r], $own),
                    null === $this->weights ? null : array_map(fn (int $r): float => $this->weights[$r], $own),
                    $quantile,
                );
            }
        }
        if (Loss::Quantile === $this->loss && [] !== array_filter($this->rising)) {
            $this->keepOrder($sprouts);
        }
        foreach ($sprouts as $s) {
            $s->value *= $s->left < 0 ? $rate : 1.0;
        }
        $sums = $sampled ? $sums : $engine->added($sprouts, $sums);
        $this->plant($sprouts);
        $t = \count($this->grove->roots) - 1;

        // Rows that did not grow the tree have to walk through it.
        return $sampled ? $this->grove->add(
            $this->cells ??= RowCodes::of($this->codes->of($this->task->table, $this->rows), \count($this->rows)),
            array_values($sums),
            0,
            $t,
            $t + 1,
        ) : array_values($sums);
    }

    /** @param list<Sprout> $sprouts */
    private function plant(array $sprouts): void
    {
        $this->grove->begin();
        // Depth first, left before right: the left child is the next node.
        $waiting = [[0, -1]];
        while ([] !== $waiting) {
            [$i, $parent] = array_pop($waiting);
            $s = $sprouts[$i];
            $node = $s->left < 0 || null === $s->best ? $this->grove->leaf([$s->value]) : $this->grove->node($s->best);
            if ($parent >= 0) {
                $this->grove->turnRight($parent, $node);
            }
            if ($s->left >= 0) {
                $waiting[] = [$s->right, $node];
                $waiting[] = [$s->left, -1];
            }
        }
    }

    /** @return list<array{column: string, share: float}> share of all gain, most first */
    public function importance(): array
    {
        return Gains::shares($this->codes->columns, array_values($this->gains));
    }
}
