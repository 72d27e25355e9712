<?php

declare(strict_types=1);

namespace App\Service;

use App\Account\User;
use App\Approval\Approval;
use App\Http\Problem;
use App\Logbook\Logbook;
use App\Question\Seal;
use App\Reasons\Bases;
use App\Reasons\Subjects;
use App\Study\Study;
use App\Table\DataTable;
use App\Trial\Trial;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Decide\ExactAccount;
use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Learn\AddsTerms;
use Dokimos\Core\Learn\Tree\AddsTrees;
use Dokimos\Core\Table\ColumnUse;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Task\Task;

/** Opens services, adds versions, switches between them, and hands out tokens. */
final readonly class Services
{
    public function __construct(
        private EntityManagerInterface $entities,
        private Bases $bases,
        private Subjects $subjects,
        private Inputs $inputs,
        private Logbook $logbook,
    ) {
    }

    /** @return list<Service> */
    public function of(Study $study): array
    {
        return $this->entities->getRepository(Service::class)->findBy(['study' => $study], ['id' => 'ASC']);
    }

    public function named(string $name): ?Service
    {
        return $this->entities->getRepository(Service::class)->findOneBy(['name' => $name]);
    }

    /** A service answers with an approved version from its first moment on. */
    public function open(Study $study, User $user, string $name, Approval $approval): Service
    {
        if (1 !== preg_match('/^[a-z0-9][a-z0-9-]{0,59}$/', $name)) {
            throw new Problem(422, 'The name of a service stands in its address: small letters, digits and hyphens, 60 at most.', 'name');
        }
        if (null !== $this->named($name)) {
            throw new Problem(409, \sprintf('There is a service named %s already.', $name), 'name');
        }
        $service = new Service($study, $name);
        $this->entities->persist($service);
        $version = $this->add($service, $approval);
        $service->switchTo($version->number());
        $this->logbook->write($study, $user, 'decisions', \sprintf('Service %s opened; version %d answers.', $name, $version->number()));
        $this->entities->flush();

        return $service;
    }

    /** @return list<ServiceVersion> the newest first */
    public function versions(Service $service): array
    {
        return $this->entities->getRepository(ServiceVersion::class)->findBy(['service' => $service], ['number' => 'DESC']);
    }

    public function version(Service $service, int $number): ServiceVersion
    {
        return $this->entities->getRepository(ServiceVersion::class)->findOneBy(['service' => $service, 'number' => $number])
            ?? throw Problem::notFound('version');
    }

    /** @throws Problem where the approval is withdrawn, or what it stands on has changed since */
    public function add(Service $service, Approval $approval): ServiceVersion
    {
        if ($approval->study() !== $service->study()) {
            throw new Problem(409, 'The approval belongs to another study.');
        }
        if (!$approval->isInForce()) {
            throw new Problem(409, \sprintf('Approval %d is withdrawn.', $approval->number()));
        }
        $trial = $approval->trial() ?? throw new Problem(409, 'The trial that was approved is gone.');
        $version = new ServiceVersion(
            $service,
            $approval->number(),
            $approval,
            $this->package($approval, $trial)->written(),
            $this->example($trial, ScoringModel::fromArray($approval->model())),
        );
        $this->entities->persist($version);

        return $version;
    }

    public function switch(Service $service, User $user, Approval $approval): void
    {
        $found = $this->entities->getRepository(ServiceVersion::class)->findOneBy(['service' => $service, 'number' => $approval->number()]);
        if (null !== $found && !$approval->isInForce()) {
            throw new Problem(409, \sprintf('Approval %d is withdrawn.', $approval->number()));
        }
        $version = $found ?? $this->add($service, $approval);
        $before = $service->version();
        $service->switchTo($version->number());
        $this->logbook->write(
            $service->study(),
            $user,
            'decisions',
            \sprintf(
                'Service %s: version %d answers now%s.',
                $service->name(),
                $version->number(),
                null === $before ? '' : ', it was '.$before,
            ),
        );
        $this->entities->flush();
    }

    public function pause(Service $service, User $user, bool $paused): void
    {
        $service->pause($paused);
        $this->logbook->write(
            $service->study(),
            $user,
            'decisions',
            \sprintf('Service %s %s.', $service->name(), $paused ? 'paused' : 'goes on'),
        );
        $this->entities->flush();
    }

    public function noteTaken(Service $service, User $user): void
    {
        $this->logbook->write($service->study(), $user, 'decisions', \sprintf('Took along what callers of %s sent.', $service->name()));
        $this->entities->flush();
    }

    public function keep(Service $service, User $user, int $days): void
    {
        $service->keep($days);
        $this->inputs->forget($service->id(), $days);
        $this->logbook->write($service->study(), $user, 'decisions', \sprintf(
            0 === $days ? 'Service %s keeps nothing of what callers send.' : 'Service %s keeps what callers send for %d days.',
            $service->name(),
            $days,
        ));
        $this->entities->flush();
    }

    /** @return array{ServiceToken, string} the token itself, which is shown once */
    public function token(Service $service, User $user, TokenRequest $request): array
    {
        $shown = 'dk_'.rtrim(strtr(base64_encode(random_bytes(24)), '+/', '-_'), '=');
        $token = new ServiceToken(
            $service,
            trim($request->caller),
            hash('sha256', $shown),
            substr($shown, -4),
            null === $request->expires ? null : new \DateTimeImmutable($request->expires),
            $request->perMinute,
            $request->perDay,
            $request->reasons,
        );
        $this->entities->persist($token);
        $this->logbook->write(
            $service->study(),
            $user,
            'decisions',
            \sprintf('Service %s: a token for %s.', $service->name(), $token->caller()),
        );
        $this->entities->flush();

        return [$token, $shown];
    }

    public function revoke(ServiceToken $token, User $user): void
    {
        $token->revoke();
        $this->logbook->write(
            $token->service()->study(),
            $user,
            'decisions',
            \sprintf('Service %s: the token of %s revoked.', $token->service()->name(), $token->caller()),
        );
        $this->entities->flush();
    }

    /** @return list<ServiceToken> */
    public function tokens(Service $service): array
    {
        return $this->entities->getRepository(ServiceToken::class)->findBy(['service' => $service], ['id' => 'ASC']);
    }

    private function package(Approval $approval, Trial $trial): Packed
    {
        $model = ScoringModel::fromArray($approval->model());
        $basis = $this->bases->of($trial, $model);
        $exact = [];
        if ($model->model instanceof AddsTrees || $model->model instanceof AddsTerms) {
            foreach (Task::MORE === $model->task ? array_keys($model->classes()) : [null] as $class) {
                $exact[] = ExactAccount::of($model, $basis->background, $class);
            }
        }
        $table = $trial->question()->table();
        [$known, $ranges, $key] = [[], [], null];
        foreach ($table?->columns() ?? [] as $column) {
            $known[] = $column->name();
            $key = ColumnUse::Key === $column->use() ? $column->name() : $key;
            $summary = $column->profile()['summary'] ?? [];
            if (Kind::Number === $column->kind()
                && \is_array($summary)
                && is_numeric($summary['min'] ?? null)
                && is_numeric($summary['max'] ?? null)) {
                $ranges[$column->name()] = [(float) $summary['min'], (float) $summary['max']];
            }
        }

        return new Packed(new Package(
            $approval->number(),
            ScoringModel::unpacked($approval->model()),
            $basis->sure,
            $known,
            $key,
            $ranges,
            $approval->rule(),
            $approval->cutoff(),
            (string) $trial->question()->target(),
            Bins::of($basis->seen),
        ), new Because($basis, $exact));
    }

    /**
     * Any record of the study, as a call would give it.
     *
     * @return array<array-key, float|int|string|null>
     */
    public function record(Service $service, int $number): array
    {
        $version = $this->version($service, $service->version() ?? throw new Problem(409, 'No version answers yet.'));
        $trial = $version->approval()->trial() ?? throw new Problem(409, 'The trial that was approved is gone.');
        $subject = $this->subjects->ofTrial($trial, $number);
        $cells = [];
        foreach (array_keys($subject->reasoning->model->asked) as $name) {
            $cells[$name] = $subject->record->column((string) $name)->text(0);
        }

        return Examples::record($cells, $subject->reasoning->model->asked);
    }

    /**
     * The first open record with a value in most columns.
     *
     * @return array<array-key, ?string>
     */
    private function example(Trial $trial, ScoringModel $model): array
    {
        $seal = Seal::of($trial->question());
        $best = [];
        $rows = $trial->question()->table() instanceof DataTable ? $trial->question()->table()->rows() : 0;
        for ($number = 1, $looked = 0; $number <= $rows && $looked < 5; ++$number) {
            if ($seal->holds($number - 1)) {
                continue;
            }
            ++$looked;
            $record = $this->subjects->ofTrial($trial, $number)->record;
            $own = [];
            foreach (array_keys($model->asked) as $name) {
                $own[$name] = $record->column((string) $name)->text(0);
            }
            if ([] === $best || \count(array_filter($own, is_string(...))) > \count(array_filter($best, is_string(...)))) {
                $best = $own;
            }
        }

        return $best;
    }
}
