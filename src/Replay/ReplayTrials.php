<?php

declare(strict_types=1);

namespace App\Replay;

use App\Account\User;
use App\Preparation\Variant;
use App\Search\Course;
use App\Search\GuidedSearches;
use App\Search\Search;
use App\Search\Searches;
use App\Search\SearchPlan;
use App\Search\SearchRequest;
use App\Trial\BlendRequest;
use App\Trial\Blends;
use App\Trial\Trial;
use App\Trial\TrialPlan;
use App\Trial\Trials;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Decide\Blended;
use Dokimos\Core\Validate\ColumnChoice;

/**
 * Trials and searches of a study that is done again, and what they came to beside what the file tells.
 *
 * @phpstan-type Kept array{
 *     number: int, variant: ?string, learner: string, settings: array<string, mixed>, part: ?int, choice: ?array<string, mixed>,
 *     calibration: string, ancestry: array<string, string>, value: ?float, prints: array{figures: string, model: string},
 *     blends?: list<int>, newer?: bool, stale?: string,
 * }
 * @phpstan-type Sought array{number: int, guided?: bool, asked: array<string, mixed>, trials?: list<int>}
 *
 * @phpstan-import-type Counts from Course
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
        private Checked $checked,
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
        $not = $this->not($file);
        foreach (self::all($file) as $trial) {
            $there = $plan->has('trials', $trial['number']) || \in_array($trial['number'], $bySearch, true);
            if ($there || isset($not[$trial['number']])) {
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
            /** @var Counts $then as the schema has it */
            $then = $kept['asked'];
            $variant = $variants[array_key_first($variants) ?? ''] ?? null;
            foreach ($variants as $one) {
                $on = array_filter($one->steps(), static fn (array $s): bool => true !== ($s['off'] ?? false));
                if (array_values($on) === $then['steps']) {
                    $variant = $one;
                    break;
                }
            }

            return null === $variant ? null : $this->guided->again($plan->study(), $user, $variant, $then)->subject();
        }
        $asked = SearchPlan::fromArray($kept['asked']);
        $own = array_values(array_filter(array_map(static fn (array $v): ?Variant => $variants[$v['letter']] ?? null, $asked->variants)));
        if ([] === $own) {
            return null;
        }
        $choices = [];
        foreach ($asked->choices as $i => $choice) {
            if (null !== $choice) {
                $choices[] = $choice + ['name' => $asked->named[$i] ?? ''];
            }
        }
        $request = $this->checked->as(SearchRequest::class, [
            'spaces' => $asked->spaces,
            'variantIds' => array_map(static fn (Variant $v): int => $v->id(), $own),
            'choices' => $choices,
            'allColumns' => \in_array(null, $asked->choices, true),
            'way' => $asked->way,
            'tries' => $asked->tries,
            'seed' => $asked->seed,
            'rows' => $asked->part,
        ], \sprintf('search %d', $kept['number']));

        return $this->searches->start($plan->study(), $user, $request, $own)->subject();
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
            $asked = \is_string($how) ? ['trials' => $of, 'how' => $how] : ['trials' => $of];
            $request = $this->checked->as(BlendRequest::class, $asked, \sprintf('trial %d', $kept['number']));
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
        $not = $this->not($file);
        foreach (self::all($file) as $kept) {
            if (isset($not[$kept['number']])) {
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
     * @return array<int, string> trials that are told and not done again: number in the file => a sentence
     */
    public function not(array $file): array
    {
        $out = [];
        foreach (self::all($file) as $kept) {
            $gone = array_values(array_filter($kept['blends'] ?? [], static fn (int $number): bool => isset($out[$number])));
            $stale = $kept['stale'] ?? '';
            $why = match (true) {
                true === ($kept['newer'] ?? false) => 'it learned from newer records after a recheck',
                '' !== $stale => 'it was stale when the file was written, for '.$stale,
                [] !== $gone => 'it blends trial '.implode(' and ', $gone),
                default => null,
            };
            if (null !== $why) {
                $out[$kept['number']] = \sprintf('Trial %d is not done again: %s.', $kept['number'], $why);
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
