<?php

declare(strict_types=1);

namespace App\CommandLine;

use Dokimos\Core\Explain\Sure;
use Dokimos\Core\Learn\Learner;
use Dokimos\Core\Search\Weigh;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Task\Task;
use Dokimos\Core\Validate\SplitPlan;
use Dokimos\Core\Validate\TrialData;

/** Answers for records that the models had not seen, kept beside a model: they tell how sure it is. */
final readonly class Unseen
{
    private const SEED = 2026;

    /**
     * @param list<float>   $outcome NAN = unknown
     * @param ?list<string> $classes null for a number
     */
    private function __construct(private string $task, private array $outcome, private Answers $answers, private ?array $classes)
    {
    }

    /** @throws \InvalidArgumentException when the learner cannot be fitted on some of the folds */
    public static function of(TrialData $data, Learner $learner, int $folds): self
    {
        $known = $data->known();
        $plan = new SplitPlan(0.0, $folds, 1, self::SEED);
        $parts = array_map(
            static fn (array $validation): array => [
                'validation' => $validation,
                'training' => $plan->training($data->outcome, $known, $validation),
            ],
            array_values($plan->parts($data->outcome, $known, 0)),
        );
        $told = Weigh::of($data, [$learner], $parts)[0];
        $task = null === $data->classes ? Task::NUMBER : (2 === \count($data->classes) ? Task::TWO : Task::MORE);

        return null === $told['answers']
            ? throw new \InvalidArgumentException((string) $told['why'])
            : new self($task, $data->outcome, $told['answers'], $data->classes);
    }

    public function write(string $file): void
    {
        $plain = static fn (float $v): ?float => is_nan($v) ? null : $v;
        file_put_contents($file, json_encode([
            'task' => $this->task,
            'classes' => $this->classes,
            'outcome' => array_map($plain, $this->outcome),
            'answers' => array_map($plain, $this->answers->values),
        ], \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION));
    }

    /**
     * How sure a model is by what is kept in a file.
     *
     * @param list<string> $classes of the model; [] for a number
     *
     * @throws \InvalidArgumentException when it is no such file, or is of another model
     */
    public static function sure(string $file, string $task, array $classes): Sure
    {
        $data = json_decode((string) @file_get_contents($file), true);
        if (!\is_array($data) || !\is_array($data['outcome'] ?? null) || !\is_array($data['answers'] ?? null)) {
            throw new \InvalidArgumentException(\sprintf(
                '%s holds no answers for unseen records; dokimos:fit --unseen writes them.',
                $file,
            ));
        }
        $own = Task::MORE === $task ? $classes : $data['classes'] ?? null;
        if ($task !== ($data['task'] ?? null) || $own !== ($data['classes'] ?? null)) {
            throw new \InvalidArgumentException(\sprintf('%s is of another model than the one that scores.', $file));
        }
        $number = static fn (mixed $v): float => \is_float($v) || \is_int($v) ? (float) $v : \NAN;
        /** @var ?list<string> $own */
        $width = Answers::widthOf($own);

        return new Sure(
            $task,
            array_values(array_map($number, $data['outcome'])),
            new Answers(array_values(array_map($number, $data['answers'])), $width),
            $own,
        );
    }
}
