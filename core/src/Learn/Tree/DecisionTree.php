<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Tree;

use Dokimos\Core\Design\Codes;
use Dokimos\Core\Learn\AboutLearner;
use Dokimos\Core\Learn\Balance;
use Dokimos\Core\Learn\CannotFit;
use Dokimos\Core\Learn\Card;
use Dokimos\Core\Learn\GivenSettings;
use Dokimos\Core\Learn\HeldOut;
use Dokimos\Core\Learn\Learner;
use Dokimos\Core\Progress;
use Dokimos\Core\Random;
use Dokimos\Core\Setting;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Rows;
use Dokimos\Core\Task\Task;
use Random\Randomizer;

/** A decision tree: Breiman et al. 1984, with missing values in the direction that does best. Formulas: docs/methods/tree.md. */
final readonly class DecisionTree implements Learner
{
    /** Up to so many distinct values of a column every threshold is compared; beyond, those between bins. */
    private const EXACT_ROWS = 100_000;
    private const FINE_BINS = 1000;
    private const FOLDS = 5;

    /** @var array<string, string|float|int|bool> */
    private array $settings;

    /** @param array<string, mixed> $given */
    public function __construct(array $given = [])
    {
        $this->settings = GivenSettings::of(self::described()->title, self::described()->settings, $given);
    }

    public static function card(): Card
    {
        return new Card(6, TreeModel::class, 320, 18, perClass: 30, searched: ['depth' => ['list' => [3, 4, 5, 6, 8]], 'leaf' => ['from' => 20, 'to' => 160, 'by' => 'factors']]);
    }

    public static function described(): AboutLearner
    {
        return new AboutLearner('tree', 'Decision tree', 'Asks one question after the other and ends in leaves that can be read as rules. Finds interactions; missing values need no filling.', [Task::TWO, Task::MORE, Task::NUMBER], [
            new Setting('criterion', 'Divide by', Setting::CHOICE, 'Gini', 'What is compared between divisions.', choices: ['Gini', 'entropy', 'gain ratio'], tasks: [Task::TWO, Task::MORE]),
            new Setting('depth', 'Questions in a row, at most', Setting::WHOLE, 7, 'Fewer make a tree that is read at a glance; 0 sets no limit.', 0, 60),
            new Setting('leaf', 'Rows in a leaf, at least', Setting::WHOLE, 40, 'More make leaves that can be relied on, and fewer of them.', 1, 1_000_000),
            new Setting('divide', 'Rows to divide, at least', Setting::WHOLE, 80, 'Smaller nodes stay leaves.', 2, 1_000_000),
            new Setting('improvement', 'Improvement to divide, at least', Setting::NUMBER, 0.0, 'What a division has to take off the impurity of its node.', 0, 1e12),
            new Setting('pruning', 'Prune', Setting::CHOICE, 'not at all', 'Takes back divisions that rows not used for growing do not confirm.', choices: ['not at all', 'by cost-complexity', 'by pessimistic error']),
            new Setting('confidence', 'Confidence of the pessimistic error', Setting::NUMBER, 0.25, 'Less prunes more.', 0.0001, 0.5, when: ['pruning' => ['by pessimistic error']]),
            new Setting('judged', 'Share of rows kept back to judge the leaves', Setting::NUMBER, 0.2, 'These rows do not grow the tree: what a leaf says of them can be believed.', 0.0, 0.5),
            Balance::setting(),
            new Setting('seed', 'Seed', Setting::WHOLE, 2026, 'The same seed keeps the same rows back.', 0, 2_147_483_647),
        ], quick: true);
    }

    public function settings(): array
    {
        return $this->settings;
    }

    /** @throws CannotFit No training row has a known outcome, so there is nothing to learn from. and more */
    public function fit(Task $task, ?Progress $progress = null): TreeModel
    {
        $usable = CannotFit::withoutRows($task);
        [$rows, $judging] = $this->keptBack($task, $usable);
        $codes = Codes::learn($task->table, $task->inputs, $rows, \count($rows) <= self::EXACT_ROWS ? \PHP_INT_MAX : self::FINE_BINS);
        $balance = Balance::of($task->on($rows), (string) $this->settings['balance']);
        $growing = $balance->task->usable();
        $growth = $this->growth($balance->task, $codes, $growing);
        $nodes = $this->nodes($growth->grow(array_keys($growing), $progress), $codes, $task, $balance);
        $notes = $balance->notes();
        if (1 < \count($nodes)) {
            $nodes = match ($this->settings['pruning']) {
                'by cost-complexity' => Pruning::cut($nodes, $this->byComplexity($task, $codes, $rows, $nodes)),
                'by pessimistic error' => null === $task->classes ? throw new CannotFit('Pessimistic pruning counts errors of classes; a number has none. Prune by cost-complexity.') : Pruning::cut($nodes, self::byPessimism($nodes, (float) $this->settings['confidence'])),
                default => $nodes,
            };
        }
        if (1 === \count($nodes)) {
            $notes[] = 'No division holds on rows that were not used for growing: the tree is a single leaf, as the baseline.';
        }
        foreach ($codes->leftOut as $name => $why) {
            $notes[] = \sprintf('%s was left out: %s.', $name, $why);
        }
        $model = new TreeModel($nodes, $task->classes, $codes->leftOut, $notes);

        return [] === $judging ? $model : new TreeModel($this->judge($model, $task, $judging), $task->classes, $codes->leftOut, $notes);
    }

    /**
     * @param list<int> $rows
     *
     * @return list<list<int>> the rows in parts that judge in turns
     */
    private function fifths(Task $task, array $rows): array
    {
        if (null !== $task->apart) {
            return $task->apart->parts($rows, self::FOLDS, $this->random('folds'));
        }
        $parts = array_fill(0, self::FOLDS, []);
        foreach ($this->random('folds')->shuffleArray($rows) as $i => $row) {
            $parts[$i % self::FOLDS][] = $row;
        }

        return array_values($parts);
    }

    /**
     * @param list<int> $usable
     *
     * @return array{list<int>, list<int>} rows that grow the tree, and rows that judge its leaves
     */
    private function keptBack(Task $task, array $usable): array
    {
        return HeldOut::parts($task, $usable, (float) $this->settings['judged'], $this->settings['seed'].':judged');
    }

    private function random(string $purpose): Randomizer
    {
        return Random::stream((int) $this->settings['seed'], $purpose);
    }

    private function criterion(Task $task): Criterion
    {
        return null === $task->classes ? Criterion::Variance : Criterion::from((string) $this->settings['criterion']);
    }

    /** @param list<int> $rows */
    private function growth(Task $task, Codes $codes, array $rows): Grower
    {
        $outcome = $task->outcome;
        $weights = $task->weights;
        $y = $w = $sizes = $levels = [];
        foreach ($rows as $row) {
            $y[] = null === $task->classes ? $outcome[$row] : (int) $outcome[$row];
            if (null !== $weights) {
                $w[] = $weights[$row];
            }
        }
        foreach ($codes->columns as $f => $_) {
            $sizes[] = $codes->size($f);
            $levels[] = $codes->byteOrder($f);
        }
        $depth = (int) $this->settings['depth'];

        return Grower::of(new Cells($codes->of($task->table, $rows), $sizes, $levels, $y, null === $weights ? null : $w, null === $task->classes ? 0 : \count($task->classes)), $this->criterion($task), new Limits(0 === $depth ? \PHP_INT_MAX : $depth, (float) $this->settings['leaf'], (float) $this->settings['divide'], (float) $this->settings['improvement']));
    }

    /** @return list<Node> */
    private function nodes(Grown $grown, Codes $codes, Task $task, ?Balance $balance = null): array
    {
        $criterion = $this->criterion($task);
        // Impurity is said in the criterion's own unit; that of the gain ratio is entropy.
        $measure = Criterion::GainRatio === $criterion ? Criterion::Entropy : $criterion;
        $nodes = [];
        foreach ($grown->divisions as $i => $by) {
            $counts = $grown->counts[$i];
            $weight = $measure->weight($counts);
            $total = $measure->total($counts);
            $shown = null === $task->classes ? [$counts[0], $counts[1] / $counts[0], $total] : ($balance?->natural($counts) ?? $counts);
            if (null === $by) {
                $nodes[] = new Node($grown->depth[$i], $shown, $total / $weight);
                continue;
            }
            $improvement = ($total - $measure->total($grown->counts[$grown->left[$i]]) - $measure->total($grown->counts[$grown->right[$i]])) / $weight;
            $threshold = $left = $right = null;
            if (null === $by->left) {
                $threshold = \PHP_INT_MAX === $by->cut ? \INF : $codes->threshold($by->feature, $by->cut, $by->next);
            } else {
                $left = $right = [];
                foreach ($by->seen as $k) {
                    $name = $codes->level($by->feature, $k);
                    if (\in_array($k, $by->left, true)) {
                        $left[] = $name;
                    } else {
                        $right[] = $name;
                    }
                }
            }
            $nodes[] = new Node($grown->depth[$i], $shown, $total / $weight, $codes->columns[$by->feature], $threshold, $left, $right, $by->missingLeft, $improvement, $grown->left[$i], $grown->right[$i], isDate: $task->table->column($codes->columns[$by->feature]) instanceof DateColumn, missingSeen: $by->missingSeen);
        }

        return $nodes;
    }

    /**
     * Squared error that a node makes as a leaf, for all its rows: what cost-complexity pruning weighs against leaves.
     *
     * @param list<Node> $nodes
     *
     * @return list<float>
     */
    private static function risks(array $nodes, ?int $classes): array
    {
        return array_map(static fn (Node $n): float => null === $classes ? $n->counts[2] : Criterion::Gini->total($n->counts), $nodes);
    }

    /**
     * Cost-complexity pruning with the cost that five folds find best.
     *
     * @param list<int>  $rows
     * @param list<Node> $nodes
     *
     * @return list<int> nodes that still divide
     */
    private function byComplexity(Task $task, Codes $codes, array $rows, array $nodes): array
    {
        $classes = null === $task->classes ? null : \count($task->classes);
        $path = Pruning::path($nodes, self::risks($nodes, $classes));
        $alphas = array_column($path, 'alpha');
        $tried = [];
        foreach ($alphas as $k => $alpha) {
            // The typical cost of each step of the path: Breiman et al. 1984, section 3.4. Fold trees grow on fewer rows.
            $tried[] = isset($alphas[$k + 1]) ? sqrt(max($alpha, 1e-12) * $alphas[$k + 1]) * (1 - 1 / self::FOLDS) : \INF;
        }
        $errors = array_fill(0, \count($tried), 0.0);
        foreach ($this->fifths($task, $rows) as $held) {
            $training = Rows::without($rows, $held);
            if ([] === $held || [] === $training) {
                continue;
            }
            sort($training);
            $own = $this->nodes($this->growth($task, $codes, $training)->grow(array_keys($training)), $codes, $task);
            $model = new TreeModel($own, $task->classes, [], []);
            $counts = $this->countsOf($model, $task, $held);
            $values = TreeModel::values($own, $task->classes);
            $ownPath = Pruning::path($own, self::risks($own, $classes));
            foreach ($tried as $k => $alpha) {
                $at = 0;
                while (isset($ownPath[$at + 1]) && $ownPath[$at + 1]['alpha'] <= $alpha) {
                    ++$at;
                }
                foreach (self::leavesOf($own, $ownPath[$at]['kept']) as $leaf) {
                    $errors[$k] += self::error($values[$leaf], $counts[$leaf]);
                }
            }
        }
        $best = 0;
        foreach ($errors as $k => $error) {
            // Of equal errors the smaller tree.
            $best = $error <= $errors[$best] ? $k : $best;
        }

        return $path[$best]['kept'];
    }

    /**
     * @param list<Node> $nodes
     * @param list<int>  $kept
     *
     * @return list<int>
     */
    private static function leavesOf(array $nodes, array $kept): array
    {
        $divides = array_flip($kept);
        $leaves = [];
        $waiting = [0];
        while ([] !== $waiting) {
            $i = array_pop($waiting);
            if (isset($divides[$i])) {
                $waiting[] = $nodes[$i]->left;
                $waiting[] = $nodes[$i]->right;
            } else {
                $leaves[] = $i;
            }
        }

        return $leaves;
    }

    /**
     * Outcomes of rows, added up in every node that they pass.
     *
     * @param list<int> $rows
     *
     * @return list<list<float>> per node: weight of each class; for a number: weight, sum, sum of squares
     */
    private function countsOf(TreeModel $model, Task $task, array $rows): array
    {
        $zero = null === $task->classes ? [0.0, 0.0, 0.0] : array_values(array_fill(0, \count($task->classes), 0.0));
        $counts = array_fill(0, \count($model->nodes), $zero);
        foreach ($model->leaves($task->table, $rows) as $i => $leaf) {
            $w = $task->weights[$rows[$i]] ?? 1.0;
            $y = $task->outcome[$rows[$i]];
            if (null === $task->classes) {
                $counts[$leaf][0] += $w;
                $counts[$leaf][1] += $w * $y;
                $counts[$leaf][2] += $w * $y * $y;
            } else {
                $counts[$leaf][(int) $y] += $w;
            }
        }
        for ($i = \count($counts) - 1; $i >= 0; --$i) {
            $node = $model->nodes[$i];
            foreach ($node->isLeaf() ? [] : [$node->left, $node->right] as $child) {
                foreach ($counts[$child] as $k => $v) {
                    $counts[$i][$k] += $v;
                }
            }
        }

        return array_values(array_map(array_values(...), $counts));
    }

    /**
     * What held-out rows that end in a node lose by its answer: the log loss of classes, the squared error of a number.
     *
     * @param list<float> $value
     * @param list<float> $held
     */
    private static function error(array $value, array $held): float
    {
        if (1 === \count($value)) {
            return $held[2] - 2 * $value[0] * $held[1] + $value[0] ** 2 * $held[0];
        }
        $loss = 0.0;
        foreach ($value as $k => $p) {
            $loss -= $held[$k] * log($p);
        }

        return $loss;
    }

    /**
     * @param list<Node> $nodes
     *
     * @return list<int>
     */
    private static function byPessimism(array $nodes, float $confidence): array
    {
        return Pruning::byPessimism($nodes, array_map(static fn (Node $n): float => (float) (array_sum($n->counts) - max([0.0, ...$n->counts])), $nodes), array_map(static fn (Node $n): float => (float) array_sum($n->counts), $nodes), $confidence);
    }

    /**
     * @param list<int> $judging
     *
     * @return list<Node>
     */
    private function judge(TreeModel $model, Task $task, array $judging): array
    {
        $counts = $this->countsOf($model, $task, $judging);

        return array_map(static fn (Node $n, array $c): Node => $n->judgedBy(null !== $task->classes ? $c : [$c[0], $c[0] > 0.0 ? $c[1] / $c[0] : 0.0, $c[0] > 0.0 ? max(0.0, $c[2] - $c[1] * $c[1] / $c[0]) : 0.0]), $model->nodes, $counts);
    }
}
