<?php

declare(strict_types=1);

namespace Dokimos\Core\Learners;

use Dokimos\Core\Learn\AboutLearner;
use Dokimos\Core\Learn\Additive\AdditiveBoosting;
use Dokimos\Core\Learn\Baseline\Baseline;
use Dokimos\Core\Learn\Bayes\BayesNetwork;
use Dokimos\Core\Learn\Bayes\NaiveBayes;
use Dokimos\Core\Learn\Boosting\GradientBoosting;
use Dokimos\Core\Learn\CannotFit;
use Dokimos\Core\Learn\Card;
use Dokimos\Core\Learn\Forest\RandomForest;
use Dokimos\Core\Learn\Learner;
use Dokimos\Core\Learn\Linear\LinearRegression;
use Dokimos\Core\Learn\Logistic\LogisticRegression;
use Dokimos\Core\Learn\Logistic\MultinomialRegression;
use Dokimos\Core\Learn\Model;
use Dokimos\Core\Learn\Neighbors\NearestNeighbors;
use Dokimos\Core\Learn\Network\NeuralNetwork;
use Dokimos\Core\Learn\Rules\RuleLearner;
use Dokimos\Core\Learn\Tree\DecisionTree;
use Dokimos\Core\Learn\UnknownLearner;

/** The learners by name, and their models read back. */
final class Learners
{
    /** @var list<class-string<Learner>> */
    private const ALL = [
        LogisticRegression::class,
        MultinomialRegression::class,
        LinearRegression::class,
        DecisionTree::class,
        RuleLearner::class,
        RandomForest::class,
        GradientBoosting::class,
        AdditiveBoosting::class,
        NaiveBayes::class,
        BayesNetwork::class,
        NearestNeighbors::class,
        NeuralNetwork::class,
        Baseline::class,
    ];

    /** @return list<AboutLearner> in the order of the form */
    public static function all(): array
    {
        return array_map(static fn (string $class): AboutLearner => $class::described(), self::ALL);
    }

    /**
     * @param array<string, mixed> $settings
     *
     * @throws CannotFit there is no learner called "…"
     */
    public static function make(string $name, array $settings = []): Learner
    {
        foreach (self::ALL as $class) {
            if ($class::described()->name === $name) {
                return new $class($settings);
            }
        }

        throw new CannotFit(\sprintf('There is no learner called "%s".', $name));
    }

    /**
     * The name of the one that is tried first where nobody says which: the first of the catalogue for the task.
     *
     * @throws CannotFit no learner predicts "…"
     */
    public static function usual(string $task): string
    {
        foreach (self::ALL as $class) {
            if (\in_array($task, $class::described()->tasks, true)) {
                return $class::described()->name;
            }
        }

        throw new CannotFit(\sprintf('No learner predicts "%s".', $task));
    }

    /**
     * The name of the one that needs no column: what others are held against.
     *
     * @throws \LogicException the catalogue has a learner without columns
     */
    public static function withoutColumns(): string
    {
        foreach (self::ALL as $class) {
            if (!$class::described()->needsColumns) {
                return $class::described()->name;
            }
        }

        throw new \LogicException('The catalogue has a learner without columns.');
    }

    /** @throws CannotFit for one that is not there */
    public static function about(string $name): AboutLearner
    {
        foreach (self::all() as $about) {
            if ($about->name === $name) {
                return $about;
            }
        }

        throw new CannotFit(\sprintf('There is no learner called "%s".', $name));
    }

    /**
     * The one that judges ideas quickly for a task.
     *
     * @throws CannotFit none does
     */
    public static function scout(string $task): Learner
    {
        foreach (self::ALL as $class) {
            if (null !== $class::card()->scout && \in_array($task, $class::described()->tasks, true)) {
                return new $class($class::card()->scout);
            }
        }

        throw new CannotFit(\sprintf('No learner judges ideas for "%s".', $task));
    }

    /** The one that judges, for a task, what learners need that follow a straight line; null where none does. */
    public static function straight(string $task): ?Learner
    {
        foreach (self::ALL as $class) {
            if (null !== $class::card()->straight && \in_array($task, $class::described()->tasks, true)) {
                return new $class($class::card()->straight);
            }
        }

        return null;
    }

    /** Whether there is anything for it to learn without a column. */
    public static function needsColumns(string $name): bool
    {
        foreach (self::all() as $about) {
            if ($about->name === $name) {
                return $about->needsColumns;
            }
        }

        return true;
    }

    /** @return list<string> what a learner can predict; none for one that is not there */
    public static function tasks(string $name): array
    {
        foreach (self::all() as $about) {
            if ($about->name === $name) {
                return $about->tasks;
            }
        }

        return [];
    }

    /**
     * Settings that are not as usual, in words.
     *
     * @param array<string, mixed> $settings
     *
     * @return list<string>
     */
    public static function unusual(string $name, array $settings): array
    {
        $said = [];
        foreach (self::all() as $about) {
            foreach ($about->name === $name ? $about->settings : [] as $setting) {
                $value = $settings[$setting->name] ?? $setting->default;
                if (\is_scalar($value) && $value !== $setting->default && \is_scalar($setting->default) && (string) $value !== (string) $setting->default) {
                    $said[] = $setting->label.': '.(\is_bool($value) ? ($value ? 'yes' : 'no') : $value);
                }
            }
        }

        return $said;
    }

    public static function title(string $name): string
    {
        foreach (self::all() as $described) {
            if ($described->name === $name) {
                return $described->title;
            }
        }

        return ucfirst(str_replace('-', ' ', $name));
    }

    /** @throws CannotFit for one that is not there */
    public static function card(string $name): Card
    {
        foreach (self::ALL as $class) {
            if ($class::described()->name === $name) {
                return $class::card();
            }
        }

        throw new CannotFit(\sprintf('There is no learner called "%s".', $name));
    }

    /**
     * @param array<string, mixed> $data
     *
     * @throws UnknownLearner This model was made by a learner called "…", which this version of Dokimos does not know. Nothing was ch…
     */
    public static function read(array $data): Model
    {
        // The first models that were kept did not name their learner.
        $name = $data['learner'] ?? self::ALL[0]::described()->name;
        foreach (self::ALL as $class) {
            if ($class::described()->name === $name) {
                return $class::card()->model::fromArray($data);
            }
        }

        throw new UnknownLearner(\sprintf(
            'This model was made by a learner called "%s", which this version of Dokimos does not know. Nothing was changed; a newer version may read it.',
            \is_scalar($name) ? (string) $name : '?',
        ));
    }
}
