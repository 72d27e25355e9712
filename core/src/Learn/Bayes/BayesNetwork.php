<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Bayes;

use Dokimos\Core\Learn\AboutLearner;
use Dokimos\Core\Learn\CannotFit;
use Dokimos\Core\Learn\Card;
use Dokimos\Core\Learn\GivenSettings;
use Dokimos\Core\Learn\Learner;
use Dokimos\Core\Progress;
use Dokimos\Core\Setting;
use Dokimos\Core\Silent;
use Dokimos\Core\Stretch;
use Dokimos\Core\Task\Task;

/**
 * Bayes' rule where each column may hang on one other as well (Friedman, Geiger and Goldszmidt 1997). Definition:
 * docs/methods/bayes-network.md.
 */
final readonly class BayesNetwork implements Learner
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
        return new Card(
            1,
            NetworkModel::class,
            250,
            40,
            perClass: 40,
            searched: ['smoothing' => ['list' => [0.5, 1.0, 3.0]], 'columns' => ['list' => [15, 30, 60]]],
        );
    }

    public static function described(): AboutLearner
    {
        return new AboutLearner(
            'bayes-network',
            'Bayes network',
            'Each column speaks beside one other that it hangs on: a tree of links, drawn and read table by table.',
            [Task::TWO, Task::MORE],
            [
                new Setting('columns', 'Columns, at most', Setting::WHOLE, 60, 'Those that tell most of the target by themselves.', 1, 500),
                new Setting(
                    'smoothing',
                    'Records added to each value',
                    Setting::NUMBER,
                    1.0,
                    'More trust a cell of few records less.',
                    0.0,
                    1000.0,
                ),
                new Setting(
                    'levels',
                    'Values of a category, at most',
                    Setting::WHOLE,
                    30,
                    'The less frequent ones share what they say.',
                    2,
                    500,
                ),
                new Setting(
                    'root',
                    'Root',
                    Setting::TEXT,
                    '',
                    'The column that hangs on no other, or "first column"; left out, the one that tells most of the target.',
                ),
                Training::setting(),
            ],
        );
    }

    public function settings(): array
    {
        return $this->settings;
    }

    /** @throws CannotFit Bayes network tells classes apart; this outcome is a number. */
    public function fit(Task $task, ?Progress $progress = null): NetworkModel
    {
        $progress ??= new Silent();
        $training = Training::of($task, self::described()->title);
        $leftOut = [];
        [$nodes, $links] = $this->nodes($training, $leftOut, new Stretch($progress, 0.0, 0.3));
        [$temper, $notes] = $training->tempered(
            (string) $this->settings['calibrate'],
            'bayes network',
            function (Training $own) use ($task): \Closure {
                $none = [];

                return (new NetworkModel(
                    $this->nodes($own, $none, new Silent())[0],
                    [],
                    $own->task->classes ?? [],
                    $own->priors,
                    null,
                    [],
                    \count($own->rows),
                ))->logsOf($task->table);
            },
            $progress,
        );
        foreach ($leftOut as $name => $why) {
            $notes[] = \sprintf('%s is not used: %s.', $name, $why);
        }
        $progress->report(1.0);

        return new NetworkModel($nodes, $links, $task->classes ?? [], $training->priors, $temper, $notes, \count($training->rows));
    }

    /**
     * @param array<string, string> $leftOut columns that have no node, and why
     *
     * @return array{list<Node>, list<list<float>>} and what every two of them tell of each other within a class
     */
    private function nodes(Training $training, array &$leftOut, Progress $progress): array
    {
        $many = \count($training->priors);
        $values = $codes = $tells = [];
        foreach ($training->task->inputs as $name) {
            $column = $training->task->table->column($name);
            $own = Discrete::learn($name, $column, $training->rows, $training->classes, (int) $this->settings['levels'], true);
            if (\is_string($own)) {
                $leftOut[$name] = $own;
                continue;
            }
            $values[$name] = $own;
            $codes[$name] = $own->codes($column, $training->rows);
            $tells[$name] = self::tells($codes[$name], $own->size(), $training, $many);
        }
        $most = (int) $this->settings['columns'];
        if (\count($tells) > $most) {
            $names = array_map(strval(...), array_keys($tells));
            usort($names, static fn (string $a, string $b): int => $tells[$b] <=> $tells[$a] ?: strcmp($a, $b));
            foreach (\array_slice($names, $most) as $name) {
                $leftOut[$name] = \sprintf('%d others tell more of the target', $most);
                unset($values[$name], $codes[$name], $tells[$name]);
            }
        }
        $names = array_map(strval(...), array_keys($values));
        if ([] === $names) {
            return [[], []];
        }
        $sizes = array_map(static fn (Discrete $d): int => $d->size(), array_values($values));
        $links = Spanning::information(array_values($codes), $sizes, $training->classes, $training->weights, $many, $progress);
        $parents = Spanning::tree($links, $names, $this->root($names, array_values($tells)));
        $nodes = [];
        foreach ($names as $i => $name) {
            $parent = $parents[$i];
            $given = null === $parent ? 1 : $sizes[$parent];
            $counts = array_fill(0, $many * $given, array_fill(0, $sizes[$i], 0.0));
            $alone = array_fill(0, $many, array_fill(0, $sizes[$i], 0.0));
            foreach ($codes[$name] as $row => $code) {
                $beside = null === $parent ? 0 : $codes[$names[$parent]][$row];
                if ($code < 0) {
                    continue;
                }
                $alone[$training->classes[$row]][$code] += $training->weights[$row];
                if ($beside >= 0) {
                    $counts[$training->classes[$row] * $given + $beside][$code] += $training->weights[$row];
                }
            }
            $nodes[] = new Node(
                $values[$name],
                $parent,
                null === $parent ? null : $links[$i][$parent],
                $tells[$name],
                array_map(array_values(...), array_values($counts)),
                array_map(array_values(...), array_values($alone)),
                (float) $this->settings['smoothing'],
            );
        }

        return [$nodes, $links];
    }

    /**
     * @param list<string> $names
     * @param list<float>  $tells
     */
    private function root(array $names, array $tells): int
    {
        $wanted = trim((string) $this->settings['root']);
        if ('first column' === $wanted) {
            return 0;
        }
        if ('' !== $wanted) {
            $place = array_search($wanted, $names, true);

            return false === $place ? throw new CannotFit(\sprintf(
                '"%s" cannot be the root: it is no column of the network.',
                $wanted,
            )) : $place;
        }
        $best = 0;
        foreach ($names as $i => $name) {
            if ($tells[$i] > $tells[$best] || ($tells[$i] === $tells[$best] && $name < $names[$best])) {
                $best = $i;
            }
        }

        return $best;
    }

    /**
     * Mutual information with the target, nats.
     *
     * @param list<int> $codes
     */
    private static function tells(array $codes, int $size, Training $training, int $many): float
    {
        $counts = array_fill(0, $many * $size, 0.0);
        $values = array_fill(0, $size, 0.0);
        $classes = array_fill(0, $many, 0.0);
        $all = 0.0;
        foreach ($codes as $row => $code) {
            if ($code >= 0) {
                $w = $training->weights[$row];
                $counts[$training->classes[$row] * $size + $code] += $w;
                $values[$code] += $w;
                $classes[$training->classes[$row]] += $w;
                $all += $w;
            }
        }
        $sum = 0.0;
        foreach ($counts as $k => $count) {
            if ($count > 0.0) {
                $sum += $count / $all * log($count * $all / ($values[$k % $size] * $classes[intdiv($k, $size)]));
            }
        }

        return max(0.0, $sum);
    }
}
