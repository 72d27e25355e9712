<?php

declare(strict_types=1);

namespace App\Trial;

use App\Account\User;
use App\Http\Problem;
use App\Job\Job;
use App\Job\Jobs;
use App\Question\Ground;
use App\Question\Questions;
use App\Study\Study;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Blend\Mixing;
use Dokimos\Core\Decide\Blended;
use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Task\Task;
use Dokimos\Core\Validate\TrialFigures;

/** Trials that answer together: weighed by what they answered for rows that their models had not seen. */
final readonly class Blends
{
    public function __construct(
        private EntityManagerInterface $entities,
        private Jobs $jobs,
        private Ground $ground,
        private TrialNumbers $numbers,
        private Questions $questions,
        private Validation $validation,
    ) {
    }

    /** @throws Problem where the trials cannot be blended */
    public function start(Study $study, User $user, BlendRequest $request): Job
    {
        $members = array_map(
            fn (int $id): Trial => $this->entities->find(Trial::class, $id) ?? throw Problem::notFound('trial'),
            $request->trials,
        );
        foreach ($members as $trial) {
            if ($trial->study() !== $study) {
                throw Problem::notFound('trial');
            }
            if (!$trial->isDone() || $trial->isBlend()) {
                throw new Problem(409, $trial->isBlend()
                    ? \sprintf('Trial %d is a blend itself; choose the trials that it is made of.', $trial->number())
                    : \sprintf('Trial %d is not done.', $trial->number()));
            }
            if (!Ancestry::onItsRows($trial)) {
                throw new Problem(409, \sprintf('Trial %d was judged on other rows than those of today; fit it again.', $trial->number()));
            }
        }
        if (Mixing::ODDS === $request->how && Task::TWO !== $this->questions->of($study)->task()) {
            throw new Problem(409, 'A regression on log-odds blends chances of an event; choose weights instead.');
        }

        return $this->entities->getConnection()->transactional(fn (): Job => $this->begin($study, $user, $members, $request->how));
    }

    /** @param list<Trial> $members */
    private function begin(Study $study, User $user, array $members, string $how): Job
    {
        $question = $this->questions->of($study);
        $inputs = array_values(array_unique(array_merge(...array_map(static fn (Trial $t): array => $t->inputs(), $members))));
        $trial = new Trial(
            $question,
            $this->numbers->next($question),
            null,
            Blended::NAME,
            ['how' => $how, 'of' => array_map(static fn (Trial $t): int => $t->id(), $members)],
            [],
            $inputs,
            Ancestry::of($question, [], $inputs, Blended::NAME),
        );
        $this->entities->persist($trial);
        $this->entities->flush();
        $job = $this->jobs->start(
            $study,
            $user,
            BlendRunner::KIND,
            $trial->id(),
            \sprintf('Trial %d, blend', $trial->number()),
            Jobs::LONG,
            ['blend' => []],
        );
        $this->entities->flush();

        return $job;
    }

    /**
     * What a blend answers, and by what it weighs.
     *
     * @return array{array<string, mixed>, array<string, mixed>, list<Answers>} figures, the model, and answers per repeat
     */
    public function worked(Trial $blend): array
    {
        $settings = $blend->settings();
        $how = \is_string($settings['how'] ?? null) ? $settings['how'] : Mixing::WEIGHTS;
        $members = [];
        foreach (\is_array($settings['of'] ?? null) ? $settings['of'] : [] as $id) {
            $member = $this->entities->find(Trial::class, $id);
            if (null === $member || !$member->isDone() || !Ancestry::onItsRows($member)) {
                throw new Problem(409, 'A trial of the blend is no longer there, or stands on other rows; blend others.');
            }
            $members[] = $member;
        }
        $study = $blend->study();
        $question = $this->questions->of($study);
        [$table, $outcome, $rows] = $this->ground->open($study, $blend->inputs());
        $weights = $this->ground->weights($study, $rows);
        $folds = $this->validation->of($study);
        $classes = $question->classes();
        $answers = [];
        foreach ($folds->parts as $repeat => $parts) {
            $answers[] = Mixing::across(
                $how,
                array_map(static fn (Trial $t): Answers => $t->repeats()[$repeat] ?? $t->answers(), $members),
                $parts,
                $outcome,
                $weights,
                $classes,
            );
        }
        $first = array_map(static fn (Trial $t): Answers => $t->answers(), $members);
        $mixing = Mixing::fit($how, $first, array_keys($outcome), $outcome, $weights, $classes);
        $model = $this->model($blend, $members, $mixing, $table, $outcome, $weights);
        $figures = TrialFigures::judged($question->task(), $classes, $folds->answers($answers), [], $weights);
        $figures['full'] = !\in_array(false, $folds->answers($answers)->answered(), true);
        $figures['importance'] = [];

        return [
            $figures + ['size' => $model->model->size(), 'columns' => \count($model->model->columns()), 'reading' => null],
            $model->toArray(),
            $answers,
        ];
    }

    /**
     * @param list<Trial>  $members
     * @param list<float>  $outcome
     * @param ?list<float> $weights
     */
    private function model(Trial $blend, array $members, Mixing $mixing, Table $table, array $outcome, ?array $weights): ScoringModel
    {
        $question = $blend->question();
        $models = $of = [];
        foreach ($members as $member) {
            $models[] = ScoringModel::fromArray($member->model() ?? throw new Problem(409, 'A trial of the blend has no model.'));
            $of[] = [
                'trial' => $member->id(),
                'name' => \sprintf('trial %d, %s', $member->number(), mb_strtolower(Learners::title($member->learner()))),
            ];
        }
        $said = array_map(static fn (array $o, float $w): string => \sprintf('%s with %.2f', $o['name'], $w), $of, $mixing->weights);
        $notes = [
            \sprintf('It weighs by %s: %s. What each fold says was weighed on the other folds.', $mixing->how, implode('; ', $said)),
            'It needs all its trials when it scores; where one cannot answer a record, the others answer with their weights raised.',
        ];
        $sum = $all = 0.0;
        foreach ($outcome as $row => $y) {
            $w = $weights[$row] ?? 1.0;
            $sum += is_finite($y) ? $w * $y : 0.0;
            $all += is_finite($y) ? $w : 0.0;
        }
        \assert([] !== $models);
        $classes = Task::NUMBER === $question->task() ? [] : ($question->classes() ?? []);

        return ScoringModel::trained(
            (string) $question->target(),
            (string) $question->event(),
            $table,
            Preparation::fromArray([])->fit($table, array_keys($outcome)),
            new Blended($models, $of, $mixing, array_values($classes), $notes),
            $sum / max(1e-300, $all),
            $question->task(),
        );
    }
}
