<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Rules;

use Dokimos\Core\Learn\AboutLearner;
use Dokimos\Core\Learn\CannotFit;
use Dokimos\Core\Learn\Card;
use Dokimos\Core\Learn\GivenSettings;
use Dokimos\Core\Learn\HeldOut;
use Dokimos\Core\Learn\Learner;
use Dokimos\Core\Learn\Tree\DecisionTree;
use Dokimos\Core\Learn\Tree\Pruning;
use Dokimos\Core\Learn\Tree\TreeModel;
use Dokimos\Core\Progress;
use Dokimos\Core\Setting;
use Dokimos\Core\Task\Task;

/**
 * Rules drawn from a tree: the path to every node, with the parts taken away that do not pay, in the order of how far they can be relied on
 * (after Quinlan 1993, chapter 5). Support and share of each rule come from rows that grew neither tree nor rules. Definition: docs/methods/rules.md.
 */
final readonly class RuleLearner implements Learner
{
    /** @var array<string, string|float|int|bool> */
    private array $settings;

    /** @param array<string, mixed> $given */
    public function __construct(array $given = [])
    {
        $this->settings = GivenSettings::of(self::described()->title, self::described()->settings, $given);
    }

    public static function card(): Card
    {
        return new Card(6, RuleModel::class, 320, 18, perClass: 30, searched: ['leaf' => ['from' => 20, 'to' => 120, 'by' => 'factors'], 'most' => ['list' => [8, 12, 20]]]);
    }

    public static function described(): AboutLearner
    {
        return new AboutLearner('rules', 'Rules', 'Sentences drawn from a tree, shortened, and put in order: the first that a record meets answers.', [Task::TWO, Task::MORE], [
            new Setting('depth', 'Questions in a row, at most', Setting::WHOLE, 7, 'Of the tree that the rules are drawn from: no rule is longer.', 1, 60),
            new Setting('leaf', 'Rows of a rule, at least', Setting::WHOLE, 40, 'Among training rows. More make rules that can be relied on, and fewer of them.', 1, 1_000_000),
            new Setting('most', 'Rules, at most', Setting::WHOLE, 20, 'The rest fall to the last rule, for every other record.', 1, 1000),
            new Setting('confidence', 'Confidence of the pessimistic error', Setting::NUMBER, 0.25, 'Less shortens rules more.', 0.0001, 0.5),
            new Setting('judged', 'Share of rows kept back to judge the rules', Setting::NUMBER, 0.2, 'These rows grow neither tree nor rules: what a rule says of them can be believed.', 0.0, 0.5),
            new Setting('seed', 'Seed', Setting::WHOLE, 2026, 'The same seed keeps the same rows back.', 0, 2_147_483_647),
        ]);
    }

    public function settings(): array
    {
        return $this->settings;
    }

    /** @throws CannotFit Rules tell classes apart; this outcome is a number. */
    public function fit(Task $task, ?Progress $progress = null): RuleModel
    {
        if (null === $task->classes) {
            throw new CannotFit('Rules tell classes apart; this outcome is a number.');
        }
        [$rows, $judging] = HeldOut::parts($task, $task->usable(), (float) $this->settings['judged'], $this->settings['seed'].':judged');
        $leaf = (int) $this->settings['leaf'];
        $tree = (new DecisionTree(['depth' => $this->settings['depth'], 'leaf' => $leaf, 'divide' => max(2, 2 * $leaf), 'judged' => 0.0]))->fit($task->on($rows), $progress);
        $rules = [];
        $masks = new Masks($task, $rows);
        $overall = $masks->counts($masks->all());
        foreach ($this->drawn($tree, $masks, $overall) as $rule) {
            $rules[$rule->sentence()] ??= $rule;
        }
        $ordered = $this->ordered(array_values($rules), $masks, $leaf, $overall);
        $notes = 1 === \count($ordered) ? ['No rule holds: every record gets the average chance, as the baseline.'] : [];
        foreach ($tree->leftOut as $name => $why) {
            $notes[] = \sprintf('%s was left out: %s.', $name, $why);
        }
        $model = new RuleModel($ordered, $task->classes, $notes);
        if ([] === $judging) {
            return $model;
        }
        $judged = array_fill(0, \count($ordered), []);
        foreach ($model->first($task->table, $judging) as $i => $rule) {
            $judged[$rule][] = $judging[$i];
        }

        return new RuleModel(array_map(static fn (Rule $rule, array $own): Rule => new Rule($rule->path, $rule->class, $rule->counts, ($held = new Masks($task, array_values($own)))->counts($held->all())), $ordered, $judged), $task->classes, $notes);
    }

    /**
     * The path to each node, since what a division further down adds may be noise; shortened as long as the error to fear does not grow. A rule points to the class that its rows have most
     * above its share overall: of a rare event no leaf has more than half.
     *
     * @param list<float> $overall
     *
     * @return \Generator<Rule>
     */
    private function drawn(TreeModel $tree, Masks $masks, array $overall): \Generator
    {
        foreach ($tree->paths() as $i => $path) {
            $counts = $tree->nodes[$i]->counts;
            $class = self::pointsTo($counts, $overall);
            $rule = new Rule($path, $class, $counts);
            $fear = $this->fear($counts, $class);
            while ([] !== $rule->path) {
                $best = null;
                foreach ($rule->path as $name => $part) {
                    foreach ($part->loosened() as $looser) {
                        $shorter = $rule->path;
                        if (null === $looser) {
                            unset($shorter[$name]);
                        } else {
                            $shorter[$name] = $looser;
                        }
                        $own = $masks->counts($masks->met($shorter));
                        $new = $this->fear($own, $class);
                        if ($new <= $fear) {
                            $fear = $new;
                            $best = new Rule($shorter, $class, $own);
                        }
                    }
                }
                if (null === $best) {
                    break;
                }
                $rule = $best;
            }
            if ([] !== $rule->path) {
                yield $rule;
            }
        }
    }

    /**
     * @param list<float> $counts
     * @param list<float> $overall
     */
    private static function pointsTo(array $counts, array $overall): int
    {
        $best = (int) array_search(max([0.0, ...$overall]), $overall, true);
        foreach ($counts as $k => $c) {
            // Compared crosswise: a class without rows has no ratio.
            $best = $c * $overall[$best] > $counts[$best] * $overall[$k] ? $k : $best;
        }

        return $best;
    }

    /**
     * The share of other classes to fear among its rows.
     *
     * @param list<float> $counts
     */
    private function fear(array $counts, int $class): float
    {
        $n = array_sum($counts);

        return $n > 0.0 ? Pruning::pessimistic($n - $counts[$class], $n, (float) $this->settings['confidence']) : 1.0;
    }

    /**
     * Class after class, the rarest first, since that is the one looked for: the rule that raises its class most over what is left, by
     * the error to fear and by the root of its rows, as errors of shares go; a rule that does not, or has too few rows left, is dropped.
     *
     * @param list<Rule>  $rules
     * @param list<float> $overall
     *
     * @return non-empty-list<Rule>
     */
    private function ordered(array $rules, Masks $masks, int $leaf, array $overall): array
    {
        $left = $masks->all();
        $remaining = $overall;
        $ordered = [];
        asort($overall);
        $classes = array_keys($overall);
        while ([] !== $classes && [] !== $rules && \count($ordered) < (int) $this->settings['most']) {
            $best = $bestGain = $bestRows = null;
            foreach ($rules as $i => $rule) {
                if ($rule->class !== $classes[0]) {
                    continue;
                }
                $own = $left & $masks->met($rule->path);
                $counts = $masks->counts($own);
                $n = array_sum($counts);
                if ($n < $leaf) {
                    unset($rules[$i]);
                    continue;
                }
                $share = $remaining[$rule->class] / max(1e-300, array_sum($remaining));
                // What the rule can be relied on to say beyond the share of those left.
                $gain = (1.0 - $this->fear($counts, $rule->class) - $share) * sqrt($n);
                if ($gain > 0.0 && (null === $bestGain || $gain > $bestGain)) {
                    [$best, $bestGain, $bestRows] = [$i, $gain, $own];
                }
            }
            if (null === $best || null === $bestRows) {
                array_shift($classes);
                continue;
            }
            $ordered[] = new Rule($rules[$best]->path, $rules[$best]->class, $masks->counts($bestRows));
            unset($rules[$best]);
            $left = Masks::without($left, $bestRows);
            $remaining = $masks->counts($left);
        }
        ksort($overall);
        $ordered[] = new Rule([], self::pointsTo($remaining, array_values($overall)), $remaining);

        return $ordered;
    }
}
