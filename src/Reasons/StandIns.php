<?php

declare(strict_types=1);

namespace App\Reasons;

use App\Http\Problem;
use App\Judgment\TreeView;
use App\Trial\Trial;
use Dokimos\Core\Decide\Reasoning;
use Dokimos\Core\Decide\ScoringModel;
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
    /** Of fewer records in a half a stand-in says nothing. */
    private const FEWEST = 40;
    private const DIFFERS = 5;
    /** Title, learner and settings: a tree and a sum of terms, at three sizes each. */
    private const SIZES = [
        ['Tree of few leaves', 'tree', ['depth' => 2, 'leaf' => 15]],
        ['Tree of some leaves', 'tree', ['depth' => 3, 'leaf' => 12]],
        ['Tree of many leaves', 'tree', ['depth' => 5, 'leaf' => 8]],
        ['Sum of few terms', 'linear', ['selection' => 'forward', 'steps' => 3, 'missing' => 'fill and mark']],
        ['Sum of some terms', 'linear', ['selection' => 'forward', 'steps' => 6, 'missing' => 'fill and mark']],
        ['Sum of terms', 'linear', ['penalty' => 'ridge', 'price' => 1.0, 'missing' => 'fill and mark']],
    ];

    public function __construct(private Bases $bases)
    {
    }

    /** @return list<StandInView> */
    public function of(Trial $trial, ?string $class): array
    {
        $reasoning = $this->bases->reasoning($trial);
        [$answers, $even, $odd] = self::halves($reasoning, $class);
        $seen = $reasoning->basis->seen;
        $cutoff = Task::TWO === $reasoning->model->task ? CutOff::suggested($reasoning->model->baseRate) : null;
        $out = [];
        $trees = 0;
        foreach (self::SIZES as [$title, $learner, $settings]) {
            $model = self::fitted($seen, $answers, $even, $learner, $settings);
            if (null === $model) {
                continue;
            }
            $said = $model->answers($model->select($seen->take($odd), $model->byName()))->values;
            $truth = array_map(static fn (int $i): float => $answers[$i], $odd);
            [$follows, $agrees] = self::held($said, $truth, $cutoff);
            $out[] = new StandInView(
                $title.': '.$model->model->size(),
                $follows,
                $agrees,
                self::sentences($model->model, $seen),
                $model->model instanceof ShowsLeaves ? $trees++ : null,
                self::differs($reasoning, $odd, $said, $truth),
            );
        }

        return $out;
    }

    /**
     * A stand-in that is a tree, to be read as one.
     *
     * @param int $size from the fewest leaves, 0, on
     *
     * @throws Problem where there is no such stand-in
     */
    public function tree(Trial $trial, ?string $class, int $size): TreeView
    {
        $reasoning = $this->bases->reasoning($trial);
        [$answers, $even] = self::halves($reasoning, $class);
        $trees = array_values(array_filter(self::SIZES, static fn (array $s): bool => 'tree' === $s[1]));
        $model = isset($trees[$size]) ? self::fitted($reasoning->basis->seen, $answers, $even, $trees[$size][1], $trees[$size][2]) : null;
        if (!$model?->model instanceof ShowsLeaves) {
            throw Problem::notFound('stand-in');
        }
        $chances = Task::NUMBER !== $reasoning->model->task;
        $target = $chances ? 'chance' : $reasoning->model->target;
        $reading = TreeReading::of($model->model->tree(), null);

        return new TreeView($trial->id(), $trial->number(), Task::NUMBER, null, $target, null, $reading, $chances);
    }

    /** @return array{list<float>, list<int>, list<int>} answers for the records seen, the half that is learned from, and the other one */
    private static function halves(Reasoning $reasoning, ?string $class): array
    {
        $answers = ($reasoning->answers(Effects::place($reasoning, $class)))($reasoning->basis->seen);
        $rows = array_keys(array_filter($answers, is_finite(...)));
        $even = array_values(array_filter($rows, static fn (int $i): bool => 0 === $i % 2));
        $odd = array_values(array_filter($rows, static fn (int $i): bool => 1 === $i % 2));

        return [$answers, \count($odd) < self::FEWEST ? [] : $even, $odd];
    }

    /**
     * @param list<float>          $answers
     * @param list<int>            $even
     * @param array<string, mixed> $settings
     */
    private static function fitted(Table $seen, array $answers, array $even, string $learner, array $settings): ?ScoringModel
    {
        if (\count($even) < self::FEWEST) {
            return null;
        }
        try {
            return (new Trying(
                $seen->take($even),
                $seen->names(),
                array_map(static fn (int $i): float => $answers[$i], $even),
                new Preparation([]),
                Learners::make($learner, $settings),
                null,
            ))->whole('answer', '');
        } catch (Refusal) {
            return null;
        }
    }

    /**
     * The records on which both differ most.
     *
     * @param list<int>   $odd
     * @param list<float> $said
     * @param list<float> $truth
     *
     * @return list<StandInRecord>
     */
    private static function differs(Reasoning $reasoning, array $odd, array $said, array $truth): array
    {
        $known = array_keys(array_filter($said, is_finite(...)));
        usort($known, static fn (int $a, int $b): int => abs($truth[$b] - $said[$b]) <=> abs($truth[$a] - $said[$a]) ?: $a <=> $b);

        return array_map(
            static fn (int $i): StandInRecord => new StandInRecord($reasoning->basis->numbers[$odd[$i]], $truth[$i], $said[$i]),
            \array_slice($known, 0, self::DIFFERS),
        );
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
