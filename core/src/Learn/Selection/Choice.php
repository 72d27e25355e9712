<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Selection;

use Dokimos\Core\Design\Coding;
use Dokimos\Core\Learn\CannotFit;
use Dokimos\Core\Learn\HeldOut;
use Dokimos\Core\Learn\Model;
use Dokimos\Core\Progress;
use Dokimos\Core\Setting;
use Dokimos\Core\Task\Task;

/** The settings by which a regression chooses its columns, and the choosing. */
final class Choice
{
    private const HELD = 0.2;
    private const HELD_ERROR = 'error on held rows';
    private const ALL = 'all of them';
    private const BEST = 'best subsets';
    /** Subsets of each size that are fitted. */
    private const FITTED = 3;

    /** @return list<Setting> those a learner that chooses columns adds to its own */
    public static function settings(): array
    {
        $chosen = [Selection::FORWARD, Selection::BACKWARD, Selection::STEPWISE];

        return [
            new Setting('selection', 'Choose columns', Setting::CHOICE, 'all of them', 'Step by step, or the best subset of each size (up to 20 columns), with what was weighed. Chosen on the training rows of each fold, so that the figures stay honest.', choices: [self::ALL, ...$chosen, self::BEST]),
            new Setting('by', 'Chosen by', Setting::CHOICE, 'AIC', 'AIC keeps what helps prediction, BIC fewer; p-values go by the two limits; held rows are a fifth of the training rows.', choices: ['AIC', 'BIC', 'p-value', self::HELD_ERROR], when: ['selection' => $chosen]),
            new Setting('enter', 'p to enter, under', Setting::NUMBER, 0.05, 'Used when chosen by p-value.', 0.0, 1.0, when: ['by' => ['p-value']]),
            new Setting('stay', 'p to stay, up to', Setting::NUMBER, 0.1, 'Used when chosen by p-value; more than to enter, or columns come and go.', 0.0, 1.0, when: ['by' => ['p-value']]),
            new Setting('steps', 'Steps, at most', Setting::WHOLE, 0, '0 sets no limit.', 0, 10000, when: ['selection' => $chosen]),
            new Setting('compare', 'Sizes compared by', Setting::CHOICE, 'AIC', 'AIC keeps what helps prediction, BIC fewer; held rows are a fifth of the training rows.', choices: ['AIC', 'BIC', self::HELD_ERROR], when: ['selection' => [self::BEST]]),
            new Setting('columns', 'Columns, at most', Setting::WHOLE, 0, '0 sets no limit.', 0, Screen::MOST, when: ['selection' => [self::BEST]]),
        ];
    }

    /**
     * What a model says of how its columns were chosen.
     *
     * @param list<array<string, mixed>> $trace
     * @param list<string>               $columns
     *
     * @return list<string>
     */
    public static function notes(array $trace, array $columns): array
    {
        if ([] === $trace) {
            return [];
        }
        $how = 'choose' === ($trace[\count($trace) - 1]['action'] ?? null) ? 'among the best subsets of each size' : \sprintf('in %d steps', \count($trace));

        return [\sprintf('Chosen %s: %s.', $how, [] === $columns ? 'no column' : implode(', ', $columns))];
    }

    /**
     * What columns are chosen by: AIC, BIC, p-value or error on held rows.
     *
     * @param array<string, mixed> $settings those left out have their usual value
     */
    public static function by(array $settings): string
    {
        $by = $settings[self::BEST === ($settings['selection'] ?? self::ALL) ? 'compare' : 'by'] ?? 'AIC';

        return \is_string($by) ? $by : 'AIC';
    }

    /** @param array<string, string|float|int|bool> $settings */
    public static function isAll(array $settings): bool
    {
        return self::ALL === $settings['selection'];
    }

    /**
     * The choice, with what each step leaves: losses on rows that fitted it and on a fifth kept back from it; for least squares the
     * residual sum and Mallows' Cp too.
     *
     * @param array<string, string|float|int|bool>                       $settings
     * @param Coding                                                     $coding   of all columns
     * @param list<int>                                                  $rows     complete in all columns
     * @param \Closure(list<string>, list<int>): array{Model, Candidate} $fit
     *
     * @return array{final: list<string>, trace: list<array<string, mixed>>}
     */
    public static function of(array $settings, Coding $coding, Task $task, array $rows, \Closure $fit, Progress $progress): array
    {
        [$rest, $held] = HeldOut::parts($task, $rows, self::HELD, 'choice of columns');
        $losses = [];
        $judged = static function (array $model) use ($task, $fit, $rest, $held, &$losses): array {
            /** @var list<string> $model */
            return $losses[implode("\0", $model)] ??= (static function () use ($model, $task, $fit, $rest, $held): array {
                try {
                    $own = $fit($model, $rest)[0];
                } catch (CannotFit) {
                    // The rest may have one class only where all rows have two.
                    return ['training' => null, 'held' => null];
                }

                return array_map(static fn (float $loss): ?float => is_finite($loss) ? $loss : null, ['training' => HeldOut::loss($own, $task, $rest), 'held' => HeldOut::loss($own, $task, $held)]);
            })();
        };
        $selection = new Selection(static fn (array $model): Candidate => $fit($model, $rows)[1], $coding->columns, (int) $settings['steps'], $progress);
        $method = (string) $settings['selection'];
        $by = self::by($settings);
        $error = static fn (array $model): float => $judged($model)['held'] ?? \PHP_FLOAT_MAX;
        $price = 'BIC' === $by ? log(max(1.0, self::size($task, $rows))) : 2.0;
        $criterion = $selection->criterion($price);
        [$key, $score] = self::HELD_ERROR === $by ? ['error', $error] : ['aic', $criterion];
        $chosen = match (true) {
            self::BEST === $method => self::best(Screen::of($coding, $task, $rows, self::FITTED, $price), (int) $settings['columns'], $key, $score, $progress),
            'p-value' === $by => $selection->byP($method, (float) $settings['enter'], (float) $settings['stay']),
            default => $selection->byCriterion($method, $key, $score),
        };
        $full = $selection->of($coding->columns);
        $variance = null !== $full->rss && $full->rows > $full->parameters ? $full->rss / ($full->rows - $full->parameters) : 0.0;
        foreach ($chosen['trace'] as $i => $step) {
            if (\is_array($step['model'] ?? null)) {
                /** @var list<string> $model */
                $model = $step['model'];
                $own = $selection->of($model);
                $chosen['trace'][$i]['losses'] = $judged($model);
                if (null !== $own->rss) {
                    $chosen['trace'][$i] += ['rss' => $own->rss, 'cp' => $variance > 0.0 ? $own->rss / $variance - $own->rows + 2 * $own->parameters : null];
                }
            }
        }

        return $chosen;
    }

    /** @param list<int> $rows */
    private static function size(Task $task, array $rows): float
    {
        return null === $task->weights || null === $task->classes ? (float) \count($rows) : array_sum(array_map(static fn (int $r): float => $task->weights[$r], $rows));
    }

    /**
     * Of each size the subset with the least of the criterion among those that the screening put first; then the size.
     *
     * @param list<list<list<string>>>      $sizes
     * @param int                           $most  columns, at most; 0 = no limit
     * @param \Closure(list<string>): float $score
     *
     * @return array{final: list<string>, trace: list<array<string, mixed>>}
     */
    private static function best(array $sizes, int $most, string $key, \Closure $score, Progress $progress): array
    {
        $trace = [];
        $first = null;
        foreach ($sizes as $size => $subsets) {
            if ($most > 0 && $size > $most) {
                break;
            }
            $progress->report(min(0.9, $size / \count($sizes)));
            $own = null;
            $candidates = [];
            foreach ($subsets as $model) {
                $candidates[] = ['term' => null, 'columns' => $model, $key => $value = $score($model)];
                $own = null === $own || $value < $own[1] ? [$model, $value] : $own;
            }
            if (null === $own) {
                continue;
            }
            $trace[] = ['action' => 'best of size', 'term' => null, $key => $own[1], 'model' => $own[0], 'candidates' => $candidates];
            $first = null === $first || $own[1] < $first[1] ? $own : $first;
        }
        $first ??= [[], \INF];
        $trace[] = ['action' => 'choose', 'term' => null, $key => $first[1], 'model' => $first[0]];

        return ['final' => $first[0], 'trace' => $trace];
    }
}
