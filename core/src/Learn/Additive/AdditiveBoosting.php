<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Additive;

use Dokimos\Core\Design\Codes;
use Dokimos\Core\Learn\AboutLearner;
use Dokimos\Core\Learn\Balance;
use Dokimos\Core\Learn\CannotFit;
use Dokimos\Core\Learn\Card;
use Dokimos\Core\Learn\GivenSettings;
use Dokimos\Core\Learn\Learner;
use Dokimos\Core\Learn\Moments;
use Dokimos\Core\Progress;
use Dokimos\Core\Random;
use Dokimos\Core\Setting;
use Dokimos\Core\Silent;
use Dokimos\Core\Stretch;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Task\Task;

/**
 * A sum of one curve for each column, and of a few pairs, boosted over histograms and averaged over bags (Lou, Caruana and Gehrke 2012;
 * Lou, Caruana, Gehrke and Hooker 2013). Definition: docs/methods/additive.md.
 */
final readonly class AdditiveBoosting implements Learner
{
    private const RARE = 10;
    private const STEPS = 3;
    private const GROUPS = 16;

    /** @var array<string, string|float|int|bool> */
    private array $settings;

    /** @param array<string, mixed> $given */
    public function __construct(array $given = [])
    {
        $this->settings = GivenSettings::of(self::described()->title, self::described()->settings, $given);
    }

    public static function card(): Card
    {
        return new Card(1, AdditiveModel::class, 900, 60, perClass: 220, searched: [
            'pairs' => ['list' => [0, 3, 6]], 'rate' => ['list' => [0.05, 0.1]], 'leaf' => ['list' => [10, 25, 50]], 'bags' => 4,
        ]);
    }

    public static function described(): AboutLearner
    {
        return new AboutLearner(
            'additive',
            'Additive model',
            'One curve for each column, and a few pairs, that add up. Close to the strongest, and read whole.',
            [Task::TWO, Task::MORE, Task::NUMBER],
            [
                new Setting(
                    'pairs',
                    'Pairs of columns, at most',
                    Setting::WHOLE,
                    5,
                    'Those that add most on rows kept back. 0 leaves curves alone.',
                    0,
                    50,
                ),
                new Setting(
                    'bags',
                    'Bags',
                    Setting::WHOLE,
                    8,
                    'So many times rows are drawn anew, and curves averaged. More are smoother, and tell the spread better.',
                    1,
                    50,
                ),
                new Setting('rate', 'Learning rate', Setting::NUMBER, 0.1, 'Smaller steps are smoother and take longer.', 0.001, 1.0),
                new Setting(
                    'rounds',
                    'Rounds, at most',
                    Setting::WHOLE,
                    600,
                    'Each goes once through all columns; rows that a bag did not draw stop it.',
                    1,
                    20_000,
                ),
                new Setting('bins', 'Stretches of a number, at most', Setting::WHOLE, 128, 'Fewer make coarser curves.', 2, 254),
                new Setting('leaf', 'Rows of a step, at least', Setting::WHOLE, 20, 'More make smoother curves.', 1, 1_000_000),
                new Setting(
                    'ridge',
                    'Ridge',
                    Setting::NUMBER,
                    1.0,
                    'Added to the curvature of each step: more holds back what few rows say.',
                    0.0,
                    1000.0,
                ),
                new Setting(
                    'gain',
                    'A cut gains at least',
                    Setting::NUMBER,
                    4.0,
                    'In units in which chance alone gains about 1 for a cut that is given. More leaves out what is hardly there.',
                    0.0,
                    1000.0,
                ),
                new Setting(
                    'rising',
                    'Curves that may only rise',
                    Setting::TEXT,
                    '',
                    'Names of columns, separated by commas.',
                    choices: ['free', 'only rising'],
                    kinds: [Kind::Number->value],
                ),
                new Setting(
                    'falling',
                    'Curves that may only fall',
                    Setting::TEXT,
                    '',
                    'Names of columns, separated by commas.',
                    choices: ['free', 'only falling'],
                    kinds: [Kind::Number->value],
                ),
                Balance::setting(),
                new Setting('seed', 'Seed', Setting::WHOLE, 2026, 'The same seed draws the same bags.', 0, 2_147_483_647),
            ],
        );
    }

    public function settings(): array
    {
        return $this->settings;
    }

    /** @throws CannotFit No training row has a known outcome, so there is nothing to learn from. */
    public function fit(Task $task, ?Progress $progress = null): AdditiveModel
    {
        $progress ??= new Silent();
        $balance = Balance::of($task, (string) $this->settings['balance']);
        $task = $balance->task;
        $rows = CannotFit::withoutRows($task);
        $codes = Codes::learn($task->table, $task->inputs, $rows, (int) $this->settings['bins'], self::RARE);
        $rising = $this->rising($task, $codes);
        $kind = match ($task->kind()) {
            Task::NUMBER => Slopes::NUMBER,
            Task::TWO => Slopes::TWO,
            default => Slopes::MORE,
        };
        [$y, $w, $mean, $sd] = self::outcome($task, $rows, $kind);
        $starts = self::starts($kind, $y, $w, \count($task->classes ?? []));
        $cells = $codes->of($task->table, $rows);
        $sizes = $orders = [];
        foreach (array_keys($codes->columns) as $f) {
            $sizes[] = $codes->size($f);
            $orders[] = !$codes->isLevels($f);
        }
        $bags = $this->bags($kind, $cells, $y, $w, $starts, $sizes, $orders, $rising, new Stretch($progress, 0.0, 0.8));
        $worth = $this->worth($bags, \count($sizes));
        $dropped = array_keys(array_filter($worth, static fn (float $v): bool => $v <= 0.0));
        foreach ($bags as $bag) {
            foreach ($dropped as $c) {
                $bag->drop($c);
            }
        }
        $counts = [];
        foreach ($cells as $f => $own) {
            $counts[$f] = array_fill(0, $sizes[$f] + 1, 0.0);
            foreach ($own as $i => $code) {
                $counts[$f][$code] += $w[$i] ?? 1.0;
            }
        }
        $grids = [];
        foreach ($cells as $f => $own) {
            $grids[] = Grid::of($own, $sizes[$f], $orders[$f], self::GROUPS);
        }
        $ridge = (float) $this->settings['ridge'];
        $most = (int) $this->settings['pairs'];
        $found = $most > 0 ? Pairs::weighed($bags, $grids, $worth, $kind, $most, 5 * max(1.0, $ridge)) : [];
        $tables = [];
        foreach ([] === $found ? [] : $bags as $b => $bag) {
            $part = new Stretch($progress, 0.8 + 0.2 * $b / \count($bags), 0.8 + 0.2 * ($b + 1) / \count($bags));
            $tables[] = Pairs::boosted(
                $bag,
                $kind,
                $found,
                $grids,
                $orders,
                new PairStep($bag->packing, (float) $this->settings['leaf'], $ridge),
                (float) $this->settings['rate'],
                (int) $this->settings['rounds'],
                $part,
            );
        }
        $made = Assembled::of(
            $codes,
            $bags,
            $tables,
            $found,
            $grids,
            $counts,
            $cells,
            $w,
            array_values(array_filter($task->inputs, static fn (string $c): bool => $task->table->column($c) instanceof DateColumn)),
            $starts,
        );
        $notes = $balance->notes();
        $notes[] = \sprintf(
            'Its curves are the mean over %s, each boosted for %s until the rows it did not draw lost no less.',
            1 === \count($bags) ? 'one bag' : \count($bags).' bags',
            self::range(array_map(static fn (Bag $b): int => $b->rounds, $bags)),
        );
        if ([] !== $dropped) {
            $notes[] = \sprintf(
                'Without a curve, since it carried nothing on rows kept back: %s.',
                implode(', ', array_map(static fn (int $c): string => $codes->columns[$c], $dropped)),
            );
        }
        foreach ($codes->leftOut as $name => $why) {
            $notes[] = \sprintf('%s is not used: %s.', $name, $why);
        }
        $shifts = $balance->shifts();
        foreach ($made->starts as $k => $start) {
            $shift = Slopes::TWO === $kind ? ($shifts[1] ?? 0.0) - ($shifts[0] ?? 0.0) : ($shifts[$k] ?? 0.0);
            $ends[] = $start + $shift;
        }
        $progress->report(1.0);

        return new AdditiveModel($codes, $made->curves, $made->pairs, $ends ?? [], $task->classes, $mean, $sd, $notes);
    }

    /**
     * @param list<list<int>> $cells
     * @param list<float>     $y
     * @param ?list<float>    $w
     * @param list<float>     $starts
     * @param list<int>       $sizes
     * @param list<bool>      $orders
     * @param list<int>       $rising
     *
     * @return list<Bag>
     */
    private function bags(
        int $kind,
        array $cells,
        array $y,
        ?array $w,
        array $starts,
        array $sizes,
        array $orders,
        array $rising,
        Progress $progress,
    ): array {
        $random = Random::stream((int) $this->settings['seed'], 'additive');
        $many = (int) $this->settings['bags'];
        $bags = [];
        for ($b = 0; $b < $many; ++$b) {
            [$drawn, $out] = Bag::drawn(\count($y), $random);
            $bag = new Bag($kind, $cells, $y, $w, $drawn, $out, $starts);
            $step = new Step(
                $bag->packing,
                (float) $this->settings['leaf'],
                self::STEPS,
                (float) $this->settings['ridge'],
                (float) $this->settings['gain'],
            );
            $bag->boost(
                $sizes,
                $orders,
                $rising,
                $step,
                (float) $this->settings['rate'],
                (int) $this->settings['rounds'],
                new Stretch($progress, $b / $many, ($b + 1) / $many),
            );
            $bags[] = $bag;
        }

        return $bags;
    }

    /**
     * What rows that were not drawn would lose more without each curve, on average over bags.
     *
     * @param list<Bag> $bags
     *
     * @return list<float>
     */
    private function worth(array $bags, int $columns): array
    {
        $worth = [];
        for ($c = 0; $c < $columns; ++$c) {
            $worth[] = array_sum(array_map(
                static fn (Bag $b): float => is_finite($b->outLoss) ? $b->worth($c) : 0.0,
                $bags,
            )) / max(1, \count($bags));
        }

        return $worth;
    }

    /** @param list<int> $rounds */
    private static function range(array $rounds): string
    {
        [$least, $most] = [min([\PHP_INT_MAX, ...$rounds]), max([0, ...$rounds])];

        return $least === $most ? \sprintf('%d rounds', $most) : \sprintf('%d to %d rounds', $least, $most);
    }

    /**
     * @param list<int> $rows
     *
     * @return array{list<float>, ?list<float>, float, float} outcome as it is learned, weights, and what a number is measured by
     */
    private static function outcome(Task $task, array $rows, int $kind): array
    {
        $y = array_map(static fn (int $row): float => $task->outcome[$row], $rows);
        $w = null === $task->weights ? null : array_map(static fn (int $row): float => $task->weights[$row], $rows);
        if (null !== $w) {
            // On average 1, so that what is held back stays the same beside them.
            $all = array_sum($w) / \count($w);
            $w = array_map(static fn (float $v): float => $v / $all, $w);
        }
        if (Slopes::NUMBER !== $kind) {
            return [$y, $w, 0.0, 1.0];
        }
        [, $mean, $sd] = Moments::of($y, $w ?? array_fill(0, \count($y), 1.0));
        $sd = $sd > 0.0 ? $sd : 1.0;

        return [array_map(static fn (float $v): float => ($v - $mean) / $sd, $y), $w, $mean, $sd];
    }

    /**
     * @param list<float>  $y
     * @param ?list<float> $w
     *
     * @return list<float>
     */
    private static function starts(int $kind, array $y, ?array $w, int $classes): array
    {
        if (Slopes::NUMBER === $kind) {
            return [0.0];
        }
        $sums = array_fill(0, $classes, 0.5);
        foreach ($y as $i => $class) {
            $sums[(int) $class] += $w[$i] ?? 1.0;
        }
        if (Slopes::TWO === $kind) {
            return [log($sums[1] / $sums[0])];
        }
        $all = array_sum($sums);

        return array_values(array_map(static fn (float $s): float => log($s / $all), $sums));
    }

    /** @return list<int> by column of the codes */
    private function rising(Task $task, Codes $codes): array
    {
        $out = array_fill(0, \count($codes->columns), 0);
        foreach (['rising' => 1, 'falling' => -1] as $setting => $way) {
            foreach (array_filter(
                array_map(trim(...), explode(',', (string) $this->settings[$setting])),
                static fn (string $s): bool => '' !== $s,
            ) as $name) {
                if (!\in_array($name, $task->inputs, true)) {
                    throw new CannotFit(\sprintf('There is no input %s to hold.', $name));
                }
                $f = array_search($name, $codes->columns, true);
                if (false === $f) {
                    continue;
                }
                if ($codes->isLevels($f)) {
                    throw new CannotFit(\sprintf('%s is a category: its values have no order in which a curve could rise or fall.', $name));
                }
                $out[$f] = $way;
            }
        }

        return array_values($out);
    }
}
