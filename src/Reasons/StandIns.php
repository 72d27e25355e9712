<?php

declare(strict_types=1);

namespace App\Reasons;

use App\Trial\Trial;
use Dokimos\Core\Explain\TreeLeaf;
use Dokimos\Core\Explain\TreeReading;
use Dokimos\Core\Learn\Model;
use Dokimos\Core\Learn\ShowsCoefficients;
use Dokimos\Core\Learn\Tree\ShowsLeaves;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Refusal;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\CutOff;
use Dokimos\Core\Task\Task;
use Dokimos\Core\Validate\Trying;

/** Simple models that imitate the answers of another one, and how far they do on records they did not learn from. */
final readonly class StandIns
{
    public function __construct(private Bases $bases)
    {
    }

    /** @return list<StandInView> */
    public function of(Trial $trial, ?string $class): array
    {
        $reasoning = $this->bases->reasoning($trial);
        $seen = $reasoning->basis->seen;
        $answers = ($reasoning->answers(Effects::place($reasoning, $class)))($seen);
        $rows = array_keys(array_filter($answers, is_finite(...)));
        $even = array_values(array_filter($rows, static fn (int $i): bool => 0 === $i % 2));
        $odd = array_values(array_filter($rows, static fn (int $i): bool => 1 === $i % 2));
        if (\count($even) < 40 || \count($odd) < 40) {
            return [];
        }
        $cutoff = Task::TWO === $reasoning->model->task ? CutOff::suggested($reasoning->model->baseRate) : null;
        $out = [];
        foreach ([
            ['Tree of few leaves', 'tree', ['depth' => 2, 'leaf' => 15]],
            ['Tree of some leaves', 'tree', ['depth' => 3, 'leaf' => 12]],
            ['Tree of many leaves', 'tree', ['depth' => 5, 'leaf' => 8]],
            ['Sum of terms', 'linear', ['penalty' => 'ridge', 'price' => 1.0, 'missing' => 'fill and mark']],
        ] as [$title, $learner, $settings]) {
            try {
                $model = (new Trying(
                    $seen->take($even),
                    $seen->names(),
                    array_map(static fn (int $i): float => $answers[$i], $even),
                    new Preparation([]),
                    Learners::make($learner, $settings),
                    null,
                ))->whole('answer', '');
            } catch (Refusal) {
                continue;
            }
            $said = $model->answers($model->select($seen->take($odd), $model->byName()))->values;
            $truth = array_map(static fn (int $i): float => $answers[$i], $odd);
            [$follows, $agrees] = self::held($said, $truth, $cutoff);
            $out[] = new StandInView($title.': '.$model->model->size(), $follows, $agrees, self::sentences($model->model, $seen));
        }

        return $out;
    }

    /**
     * @param list<float> $said
     * @param list<float> $truth
     *
     * @return array{?float, ?float}
     */
    private static function held(array $said, array $truth, ?CutOff $cutoff): array
    {
        $known = array_keys(array_filter($said, is_finite(...)));
        $mean = array_sum(array_map(static fn (int $i): float => $truth[$i], $known)) / max(1, \count($known));
        $left = $all = $same = 0.0;
        foreach ($known as $i) {
            $left += ($truth[$i] - $said[$i]) ** 2;
            $all += ($truth[$i] - $mean) ** 2;
            $same += null !== $cutoff && $cutoff->calls($truth[$i]) === $cutoff->calls($said[$i]) ? 1.0 : 0.0;
        }

        return [$all > 0.0 ? 1 - $left / $all : null, null === $cutoff || [] === $known ? null : $same / \count($known)];
    }

    /** @return list<string> */
    private static function sentences(Model $model, Table $seen): array
    {
        if ($model instanceof ShowsLeaves) {
            return array_map(
                static fn (TreeLeaf $l): string => \sprintf('%s: %.3g', $l->says, $l->answer),
                \array_slice(TreeReading::of($model->tree(), null)->leaves, 0, 40),
            );
        }
        $out = [];
        foreach ($model instanceof ShowsCoefficients ? $model->shownCoefficients() : [] as $c) {
            $out[] = \sprintf('%s: %+.3g', $c->name, $c->estimate);
        }

        return \array_slice($out, 0, 40);
    }
}
