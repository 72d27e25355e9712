<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Selection;

use Dokimos\Core\Learn\CannotFit;
use Dokimos\Core\Learn\HeldOut;
use Dokimos\Core\Learn\LearnerSetting;
use Dokimos\Core\Learn\Model;
use Dokimos\Core\Learn\Task;
use Dokimos\Core\Progress;

/** The settings by which a regression chooses its columns, and the choosing. */
final class Choice
{
    private const HELD = 0.2;
    private const HELD_ERROR = 'error on held rows';

    /** @return list<LearnerSetting> */
    public static function settings(): array
    {
        $chosen = [Selection::FORWARD, Selection::BACKWARD, Selection::STEPWISE];

        return [
            new LearnerSetting('selection', 'Choose columns', LearnerSetting::CHOICE, 'all of them', 'Step by step, each with what was weighed. Chosen on the training rows of each fold, so that the figures stay honest.', choices: ['all of them', ...$chosen]),
            new LearnerSetting('by', 'Chosen by', LearnerSetting::CHOICE, 'AIC', 'AIC keeps what helps prediction, BIC fewer; p-values go by the two limits; held rows are a fifth of the training rows.', choices: ['AIC', 'BIC', 'p-value', self::HELD_ERROR], if: 'selection', ifIn: $chosen),
            new LearnerSetting('enter', 'p to enter, under', LearnerSetting::NUMBER, 0.05, 'Used when chosen by p-value.', 0.0, 1.0, if: 'by', ifIn: ['p-value']),
            new LearnerSetting('stay', 'p to stay, up to', LearnerSetting::NUMBER, 0.1, 'Used when chosen by p-value; more than to enter, or columns come and go.', 0.0, 1.0, if: 'by', ifIn: ['p-value']),
            new LearnerSetting('steps', 'Steps, at most', LearnerSetting::WHOLE, 0, '0 sets no limit.', 0, 10000, if: 'selection', ifIn: $chosen),
        ];
    }

    /**
     * The choice, with what each step leaves: losses on rows that fitted it and on a fifth kept back from it; for least squares the
     * residual sum and Mallows' Cp too.
     *
     * @param array<string, string|float|int|bool>                       $settings
     * @param list<string>                                               $columns
     * @param list<int>                                                  $rows
     * @param \Closure(list<string>, list<int>): array{Model, Candidate} $fit
     *
     * @return array{final: list<string>, trace: list<array<string, mixed>>}
     */
    public static function of(array $settings, array $columns, Task $task, array $rows, \Closure $fit, Progress $progress): array
    {
        [$rest, $held] = HeldOut::parts($rows, self::HELD, 'choice of columns');
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
        $selection = new Selection(static fn (array $model): Candidate => $fit($model, $rows)[1], $columns, (int) $settings['steps'], $progress);
        $method = (string) $settings['selection'];
        $chosen = match ($settings['by']) {
            'p-value' => $selection->byP($method, (float) $settings['enter'], (float) $settings['stay']),
            self::HELD_ERROR => $selection->byCriterion($method, 'error', static fn (array $model): float => $judged($model)['held'] ?? \PHP_FLOAT_MAX),
            default => $selection->byCriterion($method, 'aic', $selection->criterion('BIC' === $settings['by'] ? log(max(1, \count($rows))) : 2.0)),
        };
        $full = $selection->of($columns);
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
}
