<?php

declare(strict_types=1);

namespace App\TakeAway;

use App\Account\User;
use App\Approval\Approvals;
use App\Http\Problem;
use App\Job\Job;
use App\Job\Jobs;
use App\Judgment\Judgments;
use App\Logbook\Logbook;
use App\Question\Ground;
use App\Source\Connections;
use App\Trial\Trial;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Expression\CannotExpress;
use Dokimos\Core\Table\Table;
use Dokimos\Core\TakeAway\Form;
use Dokimos\Core\TakeAway\OnnxReader;
use Dokimos\Core\TakeAway\Program;
use Dokimos\Core\TakeAway\RuleCard;
use Dokimos\Core\TakeAway\TakeAway;

/** Hands models out, each with its proof, and has them score where data lie. */
final readonly class TakeAways
{
    private const REAL = 200;

    public function __construct(
        private EntityManagerInterface $entities,
        private Judgments $judgments,
        private Approvals $approvals,
        private Ground $ground,
        private Connections $connections,
        private CompanyDatabase $company,
        private Jobs $jobs,
        private Logbook $logbook,
        private string $projectDirectory,
    ) {
    }

    public function view(Trial $trial): TakeAwayView
    {
        $model = $this->judgments->inUse($trial);

        return new TakeAwayView(
            array_map(
                static fn (Form $f): FormView => new FormView($f->value, $f->title(), $f->within()),
                array_values(array_filter(Form::cases(), static fn (Form $f): bool => Form::Card !== $f || RuleCard::fits($model))),
            ),
            Program::cannot($model),
            !$this->approvals->isApproved($trial),
            array_map(
                TakenView::of(...),
                $this->entities->getRepository(TakenAway::class)->findBy(['trial' => $trial], ['id' => 'DESC'], 20),
            ),
            array_map(strval(...), array_keys($model->asked)),
            $this->company->tables(),
            array_map(
                static fn (ScoredInside $i): InsideView => $i->view(),
                $this->entities->getRepository(ScoredInside::class)->findBy(['trial' => $trial], ['id' => 'DESC'], 20),
            ),
        );
    }

    public function take(Trial $trial, User $user, Form $form, ?int $connection): TakenAway
    {
        $model = $this->judgments->inUse($trial);
        $postgres = null === $connection ? null : $this->connections->writing($this->connections->find($user, $connection));
        try {
            [$bytes, $proof] = (new TakeAway(new OnnxReader($this->projectDirectory.'/tools/onnx'), $postgres))->of(
                $model,
                $form,
                $this->real($trial, array_map(strval(...), array_keys($model->asked))),
            );
        } catch (CannotExpress $e) {
            throw new Problem(409, $e->getMessage());
        }
        $taken = new TakenAway(
            $trial->study(),
            $trial,
            $form->value,
            base64_encode((string) gzdeflate($bytes, 6)),
            \strlen($bytes),
            (array) json_decode(json_encode($proof, \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION), true),
            !$this->approvals->isApproved($trial),
            $user->name(),
        );
        $this->entities->persist($taken);
        $this->logbook->write(
            $trial->study(),
            $user,
            'decisions',
            \sprintf('Trial %d taken away as %s. %s', $trial->number(), $form->title(), $proof->sentence()),
        );
        $this->entities->flush();

        return $taken;
    }

    public function inside(Trial $trial, User $user, InsideRequest $request): Job
    {
        $cannot = Program::cannot($this->judgments->inUse($trial));
        if ([] !== $cannot) {
            throw new Problem(409, implode(' ', $cannot));
        }
        $connection = 0 === $request->connectionId ? null : $this->connections->find($user, $request->connectionId);
        if (null === $connection && 1 === preg_match('/\s/', trim($request->from))) {
            throw Problem::invalid('Of the company database name a table: it has '.implode(', ', $this->company->tables()).'.', 'from');
        }
        $inside = new ScoredInside(
            $trial->study(),
            $trial,
            null === $connection ? 'the company database' : \sprintf('%s at %s', $connection->database(), $connection->host()),
            $request->connectionId,
            trim($request->from),
            $request->keys,
            trim($request->into),
            !$this->approvals->isApproved($trial),
            $user->name(),
        );
        $this->entities->persist($inside);
        $this->entities->flush();
        $title = \sprintf('Scoring inside %s', $inside->place());
        $job = $this->jobs->start($trial->study(), $user, InsideRunner::KIND, $inside->id(), $title, Jobs::LONG, ['score' => []]);
        $this->entities->flush();

        return $job;
    }

    /**
     * Open records, evenly from all of them.
     *
     * @param list<string> $names
     */
    private function real(Trial $trial, array $names): Table
    {
        [$table] = $this->ground->open($trial->study(), $names);
        $step = max(1, intdiv($table->rows, self::REAL));

        return $table->take(range(0, max(0, $table->rows - 1), $step));
    }
}
