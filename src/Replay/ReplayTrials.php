<?php

declare(strict_types=1);

namespace App\Replay;

use App\Account\User;
use App\Preparation\Variant;
use App\Question\Questions;
use App\Search\Course;
use App\Search\GuidedRequest;
use App\Search\GuidedSearches;
use App\Search\Search;
use App\Search\Searches;
use App\Search\SearchPlan;
use App\Search\SearchRequest;
use App\Search\SpaceRequest;
use App\Trial\BlendRequest;
use App\Trial\Blends;
use App\Trial\ChoiceRequest;
use App\Trial\Trial;
use App\Trial\TrialPlan;
use App\Trial\Trials;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Decide\Blended;
use Dokimos\Core\Guide\Guided;
use Dokimos\Core\Validate\ColumnChoice;

/**
 * Trials and searches of a study that is done again, and what they came to beside what the file tells.
 *
 * @phpstan-type Kept array{
 *     number: int, variant: ?string, learner: string, settings: array<string, mixed>, part: ?int, choice: ?array<string, mixed>,
 *     calibration: string, ancestry: array<string, string>, value: ?float, prints: array{figures: string, model: string},
 *     blends?: list<int>, newer?: bool,
 * }
 * @phpstan-type Sought array{number: int, guided?: bool, asked: array<string, mixed>, trials?: list<int>}
 */
final readonly class ReplayTrials
{
    public function __construct(
        private EntityManagerInterface $entities,
        private Trials $trials,
        private Blends $blends,
        private Searches $searches,
        private GuidedSearches $guided,
        private StudyFile $saved,
        private Questions $questions,
    ) {
    }

    /**
     * @param array<string, mixed> $file
     *
     * @return list<Kept>
     */
    private static function all(array $file): array
    {
        /** @var list<Kept> */
        return \is_array($file['trials']) ? $file['trials'] : [];
    }

    /**
     * @param array<string, mixed> $file
     *
     * @return list<Sought>
     */
    private static function sought(array $file): array
    {
        /** @var list<Sought> */
        return \is_array($file['searches'] ?? null) ? $file['searches'] : [];
    }

    /** @param array<string, mixed> $file */
    public function goOn(StudyPlan $plan, User $user, array $file): void
    {
        $variants = $this->variants($plan, $file);
        foreach (self::sought($file) as $search) {
            if (!$plan->has('searches', $search['number'])) {
                $id = $this->search($plan, $user, $search, $variants);
                null === $id || $plan->note('searches', $search['number'], $id);
            }
            $this->handed($plan, $search);
        }
        $bySearch = array_merge([], ...array_map(static fn (array $s): array => $s['trials'] ?? [], self::sought($file)));
        foreach (self::all($file) as $trial) {
            if ($plan->has('trials', $trial['number']) || \in_array(
                $trial['number'],
                $bySearch,
                true,
            ) || true === ($trial['newer'] ?? false)) {
                continue;
            }
            if (Blended::NAME === $trial['learner']) {
                $this->blend($plan, $user, $trial);
                continue;
            }
            $variant = $variants[$trial['variant'] ?? ''] ?? null;
            if (null !== $variant) {
                $plan->note('trials', $trial['number'], $this->trials->start($plan->study(), $user, new TrialPlan(
                    $variant,
                    $trial['learner'],
                    $trial['settings'],
                    $trial['part'],
                    null === $trial['choice'] ? null : ColumnChoice::fromArray($trial['choice']),
                    $trial['calibration'],
                ))->subject());
            }
        }
    }

    /**
     * @param array<string, mixed> $file
     *
     * @return array<array-key, Variant> by the letter in the file
     */
    private function variants(StudyPlan $plan, array $file): array
    {
        /** @var list<array{letter: string}> $kept */
        $kept = $file['variants'];
        $here = $this->entities->getRepository(Variant::class)->findBy(['study' => $plan->study()], ['letter' => 'ASC']);
        $by = [];
        foreach ($kept as $i => $own) {
            if (isset($here[$i])) {
                $by[$own['letter']] = $here[$i];
            }
        }

        return $by;
    }

    /**
     * @param Sought                    $kept
     * @param array<array-key, Variant> $variants
     */
    private function search(StudyPlan $plan, User $user, array $kept, array $variants): ?int
    {
        if (true === ($kept['guided'] ?? false)) {
            $course = Course::fromArray($kept['asked']);
            $variant = $variants[array_key_first($variants) ?? ''] ?? null;
            foreach ($variants as $one) {
                if (array_values(
                    array_filter($one->steps(), static fn (array $s): bool => true !== ($s['off'] ?? false)),
                ) === $course->steps) {
                    $variant = $one;
                    break;
                }
            }

            // By its counts, not by its deadline: another machine would come further, or less far.
            return null === $variant ? null : $this->guided->start($plan->study(), $user, $variant, new GuidedRequest(
                $variant->id(),
                null,
                max(4, $course->tries),
                $course->reading,
                array_values(array_diff(Guided::learnersFor($this->questions->of($plan->study())->task()), $course->learners)),
                $course->seed,
            ))->subject();
        }
        $asked = SearchPlan::fromArray($kept['asked']);
        $own = array_values(array_filter(array_map(static fn (array $v): ?Variant => $variants[$v['letter']] ?? null, $asked->variants)));
        if ([] === $own) {
            return null;
        }
        $choices = [];
        foreach ($asked->choices as $i => $choice) {
            if (null !== $choice) {
                $choices[] = new ChoiceRequest($choice['names'], $choice['without'], $asked->named[$i] ?? '');
            }
        }

        return $this->searches->start($plan->study(), $user, new SearchRequest(
            array_map(static fn (array $s): SpaceRequest => new SpaceRequest($s['learner'], $s['settings']), $asked->spaces),
            array_map(static fn (Variant $v): int => $v->id(), $own),
            $choices,
            \in_array(null, $asked->choices, true),
            $asked->way,
            $asked->tries,
            $asked->seed,
            $asked->part,
        ), $own)->subject();
    }

    /**
     * The trials that a search has handed over are those that it handed over then, in their order.
     *
     * @param Sought $kept
     */
    private function handed(StudyPlan $plan, array $kept): void
    {
        $search = $this->entities->find(Search::class, $plan->begun('searches')[$kept['number']] ?? 0);
        foreach (null === $search ? [] : $this->saved->handed($search) as $i => $trial) {
            if (isset($kept['trials'][$i])) {
                $plan->note('trials', $kept['trials'][$i], $trial->id());
            }
        }
    }

    /** @param Kept $kept */
    private function blend(StudyPlan $plan, User $user, array $kept): void
    {
        $of = [];
        foreach ($kept['blends'] ?? [] as $number) {
            $trial = $this->here($plan, $number);
            if (null === $trial || !$trial->isDone()) {
                return;
            }
            $of[] = $trial->id();
        }
        $how = $kept['settings']['how'] ?? null;
        if (\count($of) >= 2) {
            $request = \is_string($how) ? new BlendRequest($of, $how) : new BlendRequest($of);
            $plan->note('trials', $kept['number'], $this->blends->start($plan->study(), $user, $request)->subject());
        }
    }

    /** The trial that stands for one of the file. */
    public function here(StudyPlan $plan, int $number): ?Trial
    {
        return $this->entities->find(Trial::class, $plan->begun('trials')[$number] ?? 0);
    }

    /**
     * Holds what was found against the file, trial by trial, and says at which ancestor they part.
     *
     * @param array<string, mixed> $file
     *
     * @return array{same: int, waiting: int, differs: list<string>}
     */
    public function compare(StudyPlan $plan, array $file): array
    {
        $same = $waiting = 0;
        $differs = [];
        foreach (self::all($file) as $kept) {
            if (true === ($kept['newer'] ?? false)) {
                continue;
            }
            $trial = $this->here($plan, $kept['number']);
            if (null === $trial || Trial::WAITING === $trial->state()) {
                ++$waiting;
            } elseif (!$trial->isDone()) {
                $differs[] = \sprintf('Trial %d came to no end.', $kept['number']);
            } elseif (StudyFile::prints($trial) === $kept['prints']) {
                ++$same;
            } else {
                $differs[] = \sprintf(
                    'Trial %d parts at %s: %s instead of %s.',
                    $kept['number'],
                    self::ancestor($kept['ancestry'], $trial->ancestry()),
                    json_encode($trial->line()->value),
                    json_encode($kept['value']),
                );
            }
        }

        return ['same' => $same, 'waiting' => $waiting, 'differs' => $differs];
    }

    /**
     * @param array<string, mixed> $file
     *
     * @return list<string> trials that are told and not done again
     */
    public function not(array $file): array
    {
        $out = [];
        foreach (self::all($file) as $kept) {
            if (true === ($kept['newer'] ?? false)) {
                $out[] = \sprintf('Trial %d is not done again: it learned from newer records after a recheck.', $kept['number']);
            }
        }

        return $out;
    }

    /**
     * @param array<string, string> $then
     * @param array<string, string> $now
     */
    private static function ancestor(array $then, array $now): string
    {
        $names = [
            'study' => 'the records, the target or the split',
            'steps' => 'the steps of its preparation',
            'columns' => 'the kinds or uses of columns',
            'weight' => 'the column of weights',
            'code' => 'the version of the algorithm',
        ];
        foreach ($names as $part => $name) {
            if (($then[$part] ?? '') !== ($now[$part] ?? '')) {
                return $name;
            }
        }

        return 'the fit itself (another build of PHP, or another machine)';
    }
}
