<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Bayes;

use Dokimos\Core\Design\Measured;
use Dokimos\Core\Learn\AboutLearner;
use Dokimos\Core\Learn\CannotFit;
use Dokimos\Core\Learn\Card;
use Dokimos\Core\Learn\GivenSettings;
use Dokimos\Core\Learn\Learner;
use Dokimos\Core\Progress;
use Dokimos\Core\Setting;
use Dokimos\Core\Silent;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Task\Task;

/**
 * Every column speaks for itself: the share of each class, times how often the record's values occur in it, column by column (Hand and Yu
 * 2001). Definition: docs/methods/naive-bayes.md.
 */
final readonly class NaiveBayes implements Learner
{
    private const NORMAL = 'as normal';
    private const KERNEL = 'as they lie';
    private const BINS = 'in bins by target';

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
            BayesModel::class,
            200,
            40,
            perClass: 40,
            searched: ['numbers' => ['list' => [self::NORMAL, self::KERNEL, self::BINS]]],
        );
    }

    public static function described(): AboutLearner
    {
        return new AboutLearner(
            'naive-bayes',
            'Naive Bayes',
            'Each column speaks for itself, and what they say is multiplied. Quick, read as evidence, and at home with missing values.',
            [Task::TWO, Task::MORE],
            [
                new Setting(
                    'numbers',
                    'Numbers are read',
                    Setting::CHOICE,
                    self::BINS,
                    'In bins that tell the classes apart; as normal within each class; or as they lie, by a smoothed picture of their values.',
                    choices: [self::BINS, self::NORMAL, self::KERNEL],
                ),
                new Setting(
                    'smoothing',
                    'Records added to each value',
                    Setting::NUMBER,
                    1.0,
                    'Of a category: more trust a value of few records less.',
                    0.0,
                    1000.0,
                ),
                new Setting(
                    'levels',
                    'Values of a category, at most',
                    Setting::WHOLE,
                    250,
                    'The less frequent ones share what they say.',
                    2,
                    1000,
                ),
                Training::setting(),
            ],
        );
    }

    public function settings(): array
    {
        return $this->settings;
    }

    /** @throws CannotFit Naive Bayes tells classes apart; this outcome is a number. */
    public function fit(Task $task, ?Progress $progress = null): BayesModel
    {
        $progress ??= new Silent();
        $training = Training::of($task, self::described()->title);
        [$factors, $leftOut] = $this->factors($training);
        $progress->report(0.3);
        [$temper, $notes] = $training->tempered(
            (string) $this->settings['calibrate'],
            'naive bayes',
            fn (Training $own): \Closure => (new BayesModel(
                $this->factors($own)[0],
                $own->task->classes ?? [],
                $own->priors,
                null,
                [],
                \count($own->rows),
            ))->logsOf($task->table),
            $progress,
        );
        foreach ($leftOut as $name => $why) {
            $notes[] = \sprintf('%s is not used: %s.', $name, $why);
        }
        $progress->report(1.0);

        return new BayesModel($factors, $task->classes ?? [], $training->priors, $temper, $notes, \count($training->rows));
    }

    /** @return array{list<Factor>, array<string, string>} and why columns have none */
    private function factors(Training $training): array
    {
        $factors = $leftOut = [];
        $many = \count($training->priors);
        foreach ($training->task->inputs as $name) {
            $column = $training->task->table->column($name);
            $isNumber = $column instanceof NumberColumn || $column instanceof DateColumn;
            if ($isNumber && self::BINS !== $this->settings['numbers']) {
                $values = Measured::of($column, $training->rows);
                $isDate = $column instanceof DateColumn;
                $found = self::NORMAL === $this->settings['numbers']
                    ? NormalFactor::learn($name, $values, $training->classes, $training->weights, $many, $isDate)
                    : KernelFactor::learn($name, $values, $training->classes, $training->weights, $many, $isDate);
                if (null === $found) {
                    $leftOut[$name] = 'the same value in every training row';
                } else {
                    $factors[] = $found;
                }
                continue;
            }
            $values = Discrete::learn($name, $column, $training->rows, $training->classes, (int) $this->settings['levels'], false);
            if (\is_string($values)) {
                $leftOut[$name] = $values;
                continue;
            }
            $factors[] = CountFactor::learn(
                $values,
                $values->codes($column, $training->rows),
                $training->classes,
                $training->weights,
                $many,
                (float) $this->settings['smoothing'],
            );
        }

        return [$factors, $leftOut];
    }
}
