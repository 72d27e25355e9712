<?php

declare(strict_types=1);

namespace App\TakeAway;

use App\Account\User;
use App\Approval\Approvals;
use App\Http\Problem;
use App\Judgment\Judgments;
use App\Logbook\Logbook;
use App\Question\Ground;
use App\Source\Connections;
use App\Trial\Trial;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Expression\CannotExpress;
use Dokimos\Core\Table\Table;
use Dokimos\Core\TakeAway\Dialect;
use Dokimos\Core\TakeAway\Form;
use Dokimos\Core\TakeAway\InDatabase;
use Dokimos\Core\TakeAway\OnnxReader;
use Dokimos\Core\TakeAway\Program;
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
        private Logbook $logbook,
        private string $projectDirectory,
    ) {
    }

    public function view(Trial $trial): TakeAwayView
    {
        $model = $this->judgments->inUse($trial);

        return new TakeAwayView(
            array_map(static fn (Form $f): FormView => new FormView($f->value, $f->title(), $f->within()), Form::cases()),
            Program::cannot($model),
            !$this->approvals->isApproved($trial),
            array_map(
                TakenView::of(...),
                $this->entities->getRepository(TakenAway::class)->findBy(['trial' => $trial], ['id' => 'DESC'], 20),
            ),
            array_map(strval(...), array_keys($model->asked)),
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

    public function inside(Trial $trial, User $user, InsideRequest $request): InsideView
    {
        $model = $this->judgments->inUse($trial);
        $pdo = $this->connections->writing($this->connections->find($user, $request->connectionId));
        try {
            $done = (new InDatabase($pdo, Dialect::PostgreSql))->score($model, $request->from, $request->keys, $request->into);
        } catch (CannotExpress $e) {
            throw new Problem(409, $e->getMessage());
        }
        $draft = !$this->approvals->isApproved($trial);
        $this->logbook->write($trial->study(), $user, 'decisions', \sprintf(
            'Trial %d scored %s records inside a database, into %s%s. %s',
            $trial->number(),
            number_format($done['rows']),
            $request->into,
            $draft ? ', as a draft' : '',
            $done['proof']->sentence(),
        ));
        $this->entities->flush();

        return new InsideView($done['rows'], $done['seconds'], $done['proof']->sentence(), $request->into, $draft);
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
