<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Forest;

use Dokimos\Core\Design\Codes;
use Dokimos\Core\Learn\AboutLearner;
use Dokimos\Core\Learn\Balance;
use Dokimos\Core\Learn\CannotFit;
use Dokimos\Core\Learn\Card;
use Dokimos\Core\Learn\GivenSettings;
use Dokimos\Core\Learn\Learner;
use Dokimos\Core\Learn\Tree\Cells;
use Dokimos\Core\Learn\Tree\Criterion;
use Dokimos\Core\Learn\Tree\Gains;
use Dokimos\Core\Learn\Tree\Grove;
use Dokimos\Core\Learn\Tree\Grower;
use Dokimos\Core\Learn\Tree\Limits;
use Dokimos\Core\Progress;
use Dokimos\Core\Random;
use Dokimos\Core\Setting;
use Dokimos\Core\Silent;
use Dokimos\Core\Task\Task;

/** Breiman 2001; the drawn cuts: Geurts, Ernst and Wehenkel 2006. Formulas: docs/methods/forest.md. */
final readonly class RandomForest implements Learner
{
    /** Levels in fewer rows share a code. */
    private const RARE = 20;

    /** @var array<string, string|float|int|bool> */
    private array $settings;

    /** @param array<string, mixed> $given */
    public function __construct(array $given = [])
    {
        $this->settings = GivenSettings::of(self::described()->title, self::described()->settings, $given);
    }

    public static function card(): Card
    {
        return new Card(6, ForestModel::class, 500, 22, perClass: 40, searched: ['trees' => 150, 'leaf' => ['list' => [3, 6, 12, 25]], 'tried' => ['list' => ['a third', 'the square root']]]);
    }

    public static function described(): AboutLearner
    {
        return new AboutLearner('forest', 'Random forest', 'Asks hundreds of trees, each grown on other rows and other columns, and takes their mean. Strong without tuning; read by its importance.', [Task::TWO, Task::MORE, Task::NUMBER], [
            new Setting('trees', 'Trees', Setting::WHOLE, 200, 'More never do harm but take longer.', 1, 5000),
            new Setting('tried', 'Columns tried at each division', Setting::CHOICE, 'a third', 'Fewer make trees that differ more, and are quicker.', choices: ['a third', 'the square root', 'all']),
            new Setting('leaf', 'Rows in a leaf, at least', Setting::WHOLE, 10, 'More smooth what each tree says.', 1, 1_000_000),
            new Setting('depth', 'Questions in a row, at most', Setting::WHOLE, 0, '0 sets no limit.', 0, 60),
            new Setting('drawn', 'Draw the cuts too', Setting::YES, false, 'One cut per column is drawn instead of comparing all: quicker, and smoother on noise.'),
            new Setting('sample', 'Share of the rows for each tree', Setting::NUMBER, 1.0, 'Drawn with replacement; less is quicker on many rows.', 0.01, 1.0),
            Balance::setting(),
            new Setting('seed', 'Seed', Setting::WHOLE, 2026, 'The same seed grows the same trees.', 0, 2_147_483_647),
        ]);
    }

    public function settings(): array
    {
        return $this->settings;
    }

    /** @throws CannotFit No training row has a known outcome, so there is nothing to learn from. */
    public function fit(Task $task, ?Progress $progress = null): ForestModel
    {
        $progress ??= new Silent();
        $balance = Balance::of($task, (string) $this->settings['balance']);
        $task = $balance->task;
        $rows = CannotFit::withoutRows($task);
        $codes = Codes::learn($task->table, $task->inputs, $rows, Codes::BINS, self::RARE);
        $classes = null === $task->classes ? 0 : \count($task->classes);
        $cells = $codes->of($task->table, $rows);
        $y = $w = $sizes = $levels = [];
        foreach ($rows as $row) {
            $y[] = 0 === $classes ? $task->outcome[$row] : (int) $task->outcome[$row];
            if (null !== $task->weights) {
                $w[] = $task->weights[$row];
            }
        }
        foreach ($codes->columns as $f => $_) {
            $sizes[] = $codes->size($f);
            $levels[] = $codes->byteOrder($f);
        }
        $weights = null === $task->weights ? null : $w;
        $random = Random::stream((int) $this->settings['seed'], 'forest');
        $criterion = 0 === $classes ? Criterion::Variance : Criterion::Gini;
        $depth = (int) $this->settings['depth'];
        $leaf = (float) $this->settings['leaf'];
        $grower = Grower::of(new Cells($cells, $sizes, $levels, $y, $weights, $classes), $criterion, new Limits(0 === $depth ? \PHP_INT_MAX : $depth, $leaf, 2 * $leaf), $this->tried(\count($cells)), $random, true === $this->settings['drawn'], true);
        // Two classes need one value, the share of the event.
        $width = $classes > 2 ? $classes : 1;
        $grove = new Grove($width);
        $weighted = Balance::WEIGHTED === $this->settings['balance'];
        // Of weighted rows each leaf counts what occurs; where rows were left out, small leaves would be off, and the mean is brought back.
        $value = static function (array $counts) use ($classes, $balance, $weighted): array {
            /** @var list<float> $counts */
            if ($weighted) {
                $counts = $balance->natural($counts);
            }
            $all = 0 === $classes ? $counts[0] : array_sum($counts);

            return $classes > 2 ? array_map(static fn (float $c): float => $c / $all, $counts) : [$counts[1] / $all];
        };
        // One leaf of all rows: no chance is exactly 0 or 1 only because no tree had seen otherwise.
        $grove->plant($grower->stump(array_keys($rows)), $value);
        $n = \count($rows);
        $drawn = max(1, (int) round((float) $this->settings['sample'] * $n));
        $trees = (int) $this->settings['trees'];
        $gains = array_fill(0, \count($cells), 0.0);
        $bag = new OutOfBag($y, $classes, $width, $cells);
        for ($t = 0; $t < $trees; ++$t) {
            $times = array_fill(0, $n, 0);
            for ($i = 0; $i < $drawn; ++$i) {
                ++$times[$random->getInt(0, $n - 1)];
            }
            $times = array_values($times);
            $own = $drawnWeights = [];
            foreach ($times as $i => $many) {
                if ($many > 0) {
                    $own[] = $i;
                }
            }
            foreach ($weights ?? [] as $i => $weight) {
                $drawnWeights[] = $times[$i] * $weight;
            }
            $tree = $grower->on(new Cells($cells, $sizes, $levels, $y, null === $weights ? $times : $drawnWeights, $classes, null === $weights ? $times : null))->grow($own);
            $grove->plant($tree, $value);
            foreach ($tree->divisions as $by) {
                if (null !== $by) {
                    $gains[$by->feature] += $by->gain;
                }
            }
            $bag->tell($grove, $t + 1, $times);
            $progress->report(($t + 1) / $trees);
        }
        $notes = $balance->notes();
        foreach ($codes->leftOut as $name => $why) {
            $notes[] = \sprintf('%s was left out: %s.', $name, $why);
        }

        return new ForestModel($codes, $grove, $task->classes, Gains::shares($codes->columns, array_values($gains)), $bag->curve(), $notes, $weighted ? null : $balance->factors);
    }

    private function tried(int $columns): int
    {
        return match ($this->settings['tried']) {
            'the square root' => max(1, (int) round(sqrt($columns))),
            'a third' => max(1, (int) round($columns / 3)),
            default => 0,
        };
    }
}
