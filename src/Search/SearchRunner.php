<?php

declare(strict_types=1);

namespace App\Search;

use App\Job\FigureSoFar;
use App\Job\Job;
use App\Job\Piece;
use App\Job\PieceRunner;
use App\Job\TellsFigure;
use App\Logbook\Logbook;
use App\Preparation\Variant;
use App\Question\Ground;
use App\Trial\Chosen;
use App\Trial\Trial;
use App\Trial\TrialPlan;
use App\Trial\Trials;
use App\Trial\Validation;
use Doctrine\DBAL\Exception\UniqueConstraintViolationException;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Figure\Figure;
use Dokimos\Core\Figure\Figures;
use Dokimos\Core\Figure\Sample;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Progress;
use Dokimos\Core\Search\Candidate;
use Dokimos\Core\Search\Weigh;
use Dokimos\Core\Search\Winner;
use Dokimos\Core\Stretch;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Validate\TrialData;

/** Weighs the settings of a search on the first round of folds; at the end takes the luck out of the best and makes it a trial. */
final readonly class SearchRunner implements PieceRunner, TellsFigure
{
    public const KIND = 'search';
    public const KEEP = 'keep';
    /** So many of the best are chosen among when luck is taken out. */
    private const AMONG = 60;

    public function __construct(
        private EntityManagerInterface $entities,
        private Ground $ground,
        private Validation $validation,
        private Trials $trials,
        private Logbook $logbook,
        private Standing $standing,
    ) {
    }

    public function kind(): string
    {
        return self::KIND;
    }

    public function run(Job $job, Piece $piece, Progress $progress): void
    {
        $search = $this->entities->find(Search::class, $job->subject());
        if (null === $search) {
            return;
        }
        if (\in_array($piece->key(), [Piece::JOIN, self::KEEP], true)) {
            $this->finish($search, $job);

            return;
        }
        $places = array_values(array_filter(
            \is_array($piece->payload()['places'] ?? null) ? $piece->payload()['places'] : [],
            is_int(...),
        ));
        $this->weigh($search, $places, $progress);
        if (1 === $job->pieces()) {
            $this->finish($search, $job);
        }
    }

    /** @param list<int> $places */
    private function weigh(Search $search, array $places, Progress $progress): void
    {
        /** @var list<int> $there */
        $there = $this->entities->createQuery('SELECT t.place FROM App\Search\SearchTry t WHERE t.search = :search AND t.place IN (:places)')->setParameter('search', $search)->setParameter('places', $places)->getSingleColumnResult();
        $places = array_values(array_diff($places, $there));
        $plan = SearchPlan::fromArray($search->asked());
        $candidates = $plan->candidates();
        $groups = [];
        foreach ($places as $place) {
            $one = $candidates[$place] ?? null;
            if (null !== $one) {
                $groups[$one->variant.' '.$one->choice][$place] = $one;
            }
        }
        $done = 0;
        foreach ($groups as $group) {
            $share = new Stretch($progress, $done / \count($places), ($done + \count($group)) / \count($places));
            $this->group($search, $plan, $group, $share);
            $done += \count($group);
        }
    }

    /** @param non-empty-array<int, Candidate> $group by place; all on the same preparation and columns */
    private function group(Search $search, SearchPlan $plan, array $group, Progress $progress): void
    {
        $study = $search->study();
        $question = $search->question();
        $split = $question->plan() ?? throw new \LogicException('A search has a split plan.');
        $first = reset($group);
        $steps = $plan->variants[$first->variant]['steps'];
        [$table, $outcome, $rows] = $this->ground->open($study, $this->ground->needed($study, $steps, $plan->inputs));
        $labels = $this->ground->labels($study, $rows);
        $data = new TrialData(
            $table,
            $plan->inputs,
            $outcome,
            Preparation::fromArray($steps),
            $question->classes(),
            $this->ground->weights($study, $rows),
            $split->apart($labels),
            $plan->choice($first->choice),
        );
        $folds = [];
        foreach ($split->parts($outcome, array_keys($outcome), 0, $labels) as $validation) {
            $folds[] = [
                'validation' => $validation,
                'training' => $data->some($split->training($outcome, array_keys($outcome), $validation, $labels), $plan->part),
            ];
        }
        $learners = array_values(array_map(
            static fn (Candidate $c) => Learners::make($plan->spaces[$c->space]['learner'], $c->settings),
            $group,
        ));
        $weighed = Weigh::of($data, $learners, $folds, $progress);
        $figure = Figures::named($question->task(), $search->figure());
        foreach (array_keys($group) as $i => $place) {
            $interval = null === $weighed[$i]['answers'] ? new Interval(null) : $this->judged($search, $figure, $weighed[$i]['answers']);
            $one = $group[$place];
            $this->entities->persist(new SearchTry(
                $search,
                $place,
                $one->space,
                $one->variant,
                $one->choice,
                $one->settings,
                $interval->value,
                $interval->low,
                $interval->high,
                $weighed[$i]['seconds'],
                $weighed[$i]['why'],
                $weighed[$i]['answers'],
            ));
        }
        try {
            $this->entities->flush();
        } catch (UniqueConstraintViolationException) {
            // Another worker did the same piece after this one's lease had run out; its result is the same.
            $this->entities->clear();
        }
    }

    private function judged(Search $search, Figure $figure, Answers $answers): Interval
    {
        $folds = $this->validation->of($search->study())->firstRound()->answers([$answers]);
        $weights = $this->validation->of($search->study())->weightsOf($folds->rows());
        $sample = Sample::known($folds->outcomes(), $folds->first(), $weights, false);
        $rows = null === $sample ? new Interval(null) : $figure->interval($sample) ?? new Interval(null);

        return $figure->byFold ? $folds->judged($figure, $rows)['interval'] : (null === $rows->value ? $rows : $folds->widened(
            $rows,
            $rows->value,
            false,
            $figure->least,
            $figure->most,
        ));
    }

    private function finish(Search $search, Job $job): void
    {
        $search = $this->entities->find(Search::class, $search->id()) ?? throw new \LogicException('The search is gone.');
        $figure = Figures::named($search->question()->task(), $search->figure());
        /** @var list<SearchTry> $best */
        $best = $this->entities->createQuery(\sprintf(
            'SELECT t FROM App\Search\SearchTry t WHERE t.search = :search AND t.value IS NOT NULL ORDER BY t.value %s, t.place ASC',
            $figure->more ? 'DESC' : 'ASC',
        ))
            ->setParameter('search', $search)->setMaxResults(self::AMONG)->getResult();
        if ([] === $best) {
            $search->stop('No setting could be fitted; the list says why.');
            $this->entities->flush();

            return;
        }
        $folds = $this->validation->of($search->study())->firstRound();
        $answers = array_values(array_filter(array_map(static fn (SearchTry $t): ?Answers => $t->answers(), $best)));
        $filled = array_map(static fn (Answers $a): Answers => $folds->answers([$a])->firstFilled(), $answers);
        $told = $folds->answers([$answers[0]]);
        $plan = SearchPlan::fromArray($search->asked());
        $winner = Winner::of($figure, $told->outcomes(), $filled, $plan->seed, $folds->weightsOf($told->rows()));
        $searching = (float) $best[0]->value();
        $corrected = $winner->corrected($figure, $searching);
        $interval = null === $corrected->low ? $corrected : $told->widened(
            $corrected,
            (float) $corrected->value,
            $figure->ratio,
            $figure->least,
            $figure->most,
        );
        $tried = $this->entities->createQuery('SELECT COUNT(t.id) FROM App\Search\SearchTry t WHERE t.search = :search AND t.value IS NOT NULL')->setParameter('search', $search)->getSingleScalarResult();
        $tried = (int) (is_numeric($tried) ? $tried : 0);
        $again = Search::DONE === $search->state();
        $search->finish([
            'best' => $best[0]->place(),
            'tried' => $tried,
            'searching' => $searching,
            'luck' => $winner->luck,
        ] + $interval->toArray());
        $trial = $this->hand($search, $best[0], $plan, $tried, $searching, $interval, $job);
        $this->logbook->write($search->study(), $job->user(), 'trials', \sprintf(
            'Search %d %s: the best of %s settings looked like %s %s while searching; with its luck taken out %s%s. It is trial %d.',
            $search->number(), $again ? 'went on' : 'is done', number_format($tried), $figure->name, $figure->said($searching), $figure->said($interval->value),
            null === $interval->low ? '' : \sprintf(
                ' (%s to %s)',
                $figure->said($interval->low),
                $figure->said($interval->high),
            ), $trial->number(),
        ));
        $this->entities->flush();
    }

    /** The best becomes a trial like any other; its figure is the corrected one. */
    private function hand(
        Search $search,
        SearchTry $best,
        SearchPlan $plan,
        int $tried,
        float $searching,
        Interval $interval,
        Job $job,
    ): Trial {
        $kept = $plan->variants[$best->variant()];
        $variant = $this->entities->find(Variant::class, $kept['id']) ?? throw new \LogicException('The variant of the best is gone.');
        $chosen = new Chosen(
            $search->id(),
            $search->figure(),
            $tried,
            $searching,
            (float) $interval->value,
            $interval->low,
            $interval->high,
        );
        $begun = $this->trials->start(
            $search->study(),
            $job->user(),
            new TrialPlan(
                $variant,
                $plan->spaces[$best->space()]['learner'],
                $best->settings(),
                $plan->part,
                $plan->choice($best->choice()),
                chosen: $chosen,
            ),
        );
        $trial = $this->entities->find(Trial::class, $begun->subject()) ?? throw new \LogicException('The trial was just begun.');
        $search->hand($trial);

        return $trial;
    }

    public function figureSoFar(Job $job): ?FigureSoFar
    {
        return $this->standing->best($job);
    }

    public function abandon(Job $job, ?string $failure): void
    {
        $this->standing->stopped($job, $failure);
    }
}
