<?php

declare(strict_types=1);

namespace App\Service;

use App\Http\Problem;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Table\Kind;

/** A service as its page shows it. */
final readonly class ServicePages
{
    /** A stability index from which on a column is said to have moved: the customary bound. */
    private const MOVED = 0.1;
    private const FEWEST = 100;

    public function __construct(
        private EntityManagerInterface $entities,
        private Services $services,
        private Calls $calls,
        private Inputs $inputs,
    ) {
    }

    public function view(Service $service): ServiceView
    {
        $this->calls->fold();
        $this->inputs->forget($service->id(), $service->keepDays());
        $versions = $this->services->versions($service);
        $now = $this->now($service, $versions);
        $tallies = $this->entities->getRepository(ServiceTally::class)->findBy(['service' => $service], ['day' => 'ASC']);
        $times = self::times($tallies);
        $columns = null === $now ? [] : $this->drift($now, $tallies);
        $scoring = null === $now ? null : ScoringModel::fromArray($now->approval()->model());
        $fields = [];
        foreach ($scoring->asked ?? [] as $name => $kind) {
            $fields[] = new ServiceFieldView((string) $name, $kind->value, $scoring->came[$name] ?? []);
        }
        $example = null === $now || null === $scoring ? [] : Examples::record($now->example(), $scoring->asked);

        return new ServiceView(
            $service->id(),
            $service->name(),
            '/serve/'.$service->name(),
            $service->version(),
            $service->isPaused(),
            $service->createdAt()->format(\DATE_ATOM),
            self::says($service, $tallies, $times, $columns),
            array_map(fn (ServiceVersion $v): VersionView => $this->version($v, $service, $tallies), $versions),
            array_map(static fn (ServiceToken $t): TokenView => self::token($t, $tallies), $this->services->tokens($service)),
            self::days($tallies),
            $columns,
            self::within($times, 0.5),
            self::within($times, 0.95),
            $example,
            $fields,
            Examples::of('/serve/'.$service->name(), $example),
            $service->keepDays(),
        );
    }

    /** @param list<ServiceVersion> $versions */
    private function now(Service $service, array $versions): ?ServiceVersion
    {
        foreach ($versions as $version) {
            if ($version->number() === $service->version()) {
                return $version;
            }
        }

        return null;
    }

    /** @param list<ServiceTally> $tallies */
    private function version(ServiceVersion $version, Service $service, array $tallies): VersionView
    {
        $approval = $version->approval();
        $evidence = $approval->evidence();
        $trial = \is_array($evidence['trial'] ?? null) ? $evidence['trial'] : [];
        $measure = \is_array($trial['measure'] ?? null) ? $trial['measure'] : [];

        return new VersionView(
            $version->number(),
            $approval->id(),
            \is_string($trial['title'] ?? null) ? $trial['title'] : '',
            $approval->by(),
            $approval->createdAt()->format(\DATE_ATOM),
            is_numeric($trial['value'] ?? null) ? (float) $trial['value'] : null,
            \is_string($measure['name'] ?? null) ? $measure['name'] : '',
            array_sum(array_map(static fn (ServiceTally $t): int => $t->version() === $version->number() ? $t->calls() : 0, $tallies)),
            match (true) {
                !$approval->isInForce() => 'withdrawn',
                $version->number() === $service->version() => $service->isPaused() ? 'paused' : 'answers',
                default => 'rests',
            },
        );
    }

    /** @param list<ServiceTally> $tallies */
    private static function token(ServiceToken $token, array $tallies): TokenView
    {
        $own = array_values(array_filter($tallies, static fn (ServiceTally $t): bool => $t->token() === $token));
        $byDay = [];
        foreach ($own as $t) {
            $byDay[$t->day()] = ($byDay[$t->day()] ?? 0) + $t->calls();
        }
        $last = array_map(static fn (ServiceTally $t): string => $t->lastAt()->format(\DATE_ATOM), $own);

        return new TokenView(
            $token->id(),
            $token->caller(),
            $token->tail(),
            $token->expires()?->format('Y-m-d'),
            $token->perMinute(),
            $token->perDay(),
            $token->mayAskReasons(),
            array_sum($byDay),
            [] === $byDay ? 0 : max($byDay),
            [] === $last ? null : max($last),
            null !== $token->revokedAt(),
        );
    }

    /**
     * @param list<ServiceTally> $tallies
     *
     * @return list<DayView>
     */
    private static function days(array $tallies): array
    {
        $by = [];
        foreach ($tallies as $t) {
            $by[$t->day().' '.$t->version()][] = $t;
        }
        $out = [];
        foreach ($by as $own) {
            $times = self::times($own);
            $out[] = new DayView(
                $own[0]->day(),
                $own[0]->version(),
                array_sum(array_map(static fn (ServiceTally $t): int => $t->calls(), $own)),
                array_sum(array_map(static fn (ServiceTally $t): int => $t->records(), $own)),
                array_sum(array_map(static fn (ServiceTally $t): int => $t->refused(), $own)),
                self::within($times, 0.5),
                self::within($times, 0.95),
            );
        }

        return $out;
    }

    /**
     * @param list<ServiceTally> $tallies
     *
     * @return array<int, int> calls by class of time
     */
    private static function times(array $tallies): array
    {
        $times = array_fill(0, \count(ServiceTally::TIMES) + 1, 0);
        foreach ($tallies as $t) {
            foreach ($t->times() as $k => $n) {
                $times[$k] += $n;
            }
        }

        return $times;
    }

    /**
     * The upper end of the class of times in which this share of the calls is reached.
     *
     * @param array<int, int> $times
     */
    private static function within(array $times, float $share): ?float
    {
        $all = array_sum($times);
        $sum = 0;
        foreach ($times as $k => $n) {
            $sum += $n;
            if ($all > 0 && $sum >= $share * $all) {
                return (float) (ServiceTally::TIMES[$k] ?? 2 * ServiceTally::TIMES[\count(ServiceTally::TIMES) - 1]);
            }
        }

        return null;
    }

    /**
     * @param list<ServiceTally> $tallies
     *
     * @return list<ColumnDriftView>
     */
    private function drift(ServiceVersion $version, array $tallies): array
    {
        try {
            $bins = Packed::read($version->package())->package->bins;
        } catch (\UnexpectedValueException) {
            return [];
        }
        $out = [];
        foreach ($bins->came as $name => $came) {
            $now = array_fill(0, \count($came), 0);
            foreach ($tallies as $t) {
                foreach ($t->version() === $version->number() ? $t->columns()[$name] ?? [] : [] as $k => $n) {
                    $now[(int) $k] = ($now[(int) $k] ?? 0) + $n;
                }
            }
            $records = array_sum($now);
            if ($records < self::FEWEST) {
                continue;
            }
            [$index, $most, $by] = [0.0, 0, 0.0];
            foreach ($came as $k => $n) {
                // Half a record more in each class: an empty one has no logarithm.
                $then = ($n + 0.5) / (array_sum($came) + 0.5 * \count($came));
                $share = ($now[$k] + 0.5) / ($records + 0.5 * \count($came));
                $index += ($share - $then) * log($share / $then);
                if (abs($share - $then) > abs($by)) {
                    [$most, $by] = [$k, $share - $then];
                }
            }
            $says = \sprintf(
                '%s: %d in 100 then, %d now',
                $bins->said((string) $name, $most),
                (int) round(100 * $came[$most] / max(1, array_sum($came))),
                (int) round(100 * $now[$most] / $records),
            );
            $out[] = new ColumnDriftView((string) $name, $index, $records, $index < self::MOVED ? 'as then' : $says);
        }
        usort($out, static fn (ColumnDriftView $a, ColumnDriftView $b): int => $b->index <=> $a->index);

        return $out;
    }

    /**
     * @param list<ServiceTally>    $tallies
     * @param array<int, int>       $times
     * @param list<ColumnDriftView> $columns
     */
    private static function says(Service $service, array $tallies, array $times, array $columns): string
    {
        $calls = array_sum($times);
        if ($service->isPaused()) {
            return 'It is paused: callers are told so.';
        }
        if (0 === $calls) {
            return 'It answers; nobody has called yet.';
        }
        $refused = array_sum(array_map(static fn (ServiceTally $t): int => $t->refused(), $tallies));
        $moved = array_values(array_filter($columns, static fn (ColumnDriftView $c): bool => $c->index >= self::MOVED));

        return \sprintf(
            'It answers: %s, half within %d ms.%s%s',
            1 === $calls ? '1 call' : number_format($calls).' calls',
            (int) self::within($times, 0.5),
            0 === $refused ? '' : \sprintf(
                ' %s refused with a reason.',
                1 === $refused ? '1 record was' : number_format($refused).' records were',
            ),
            [] === $moved ? '' : \sprintf(
                ' %s %s moved since training.',
                implode(', ', array_map(static fn (ColumnDriftView $c): string => $c->column, \array_slice($moved, 0, 3))),
                1 === \count($moved) ? 'has' : 'have',
            ),
        );
    }

    /** @return list<TriedView> */
    public function try(Service $service, TryRequest $request): array
    {
        $out = [];
        foreach ($request->versions as $number) {
            $packed = Packed::read($this->services->version($service, $number)->package());
            $answerer = new Answerer($packed->package, static fn (): Because => $packed->because);
            $began = hrtime(true);
            try {
                $answer = $answerer->all([$request->record], true)[0];
            } catch (NotAnswered $e) {
                throw new Problem(422, $e->getMessage());
            }
            $out[] = new TriedView($number, $answer, round((hrtime(true) - $began) / 1e6, 1));
        }

        return $out;
    }

    /** @return array<string, mixed> an OpenAPI 3.1 document */
    public function openApi(Service $service): array
    {
        $version = $this->services->version($service, $service->version() ?? throw new Problem(409, 'No version answers yet.'));
        $scoring = ScoringModel::fromArray($version->approval()->model());
        $properties = [];
        foreach ($scoring->asked as $name => $kind) {
            $type = Kind::Number === $kind ? 'number' : 'string';
            $came = $scoring->came[$name] ?? [];
            $properties[$name] = ['type' => [$type, 'null']]
                + (Kind::Date === $kind ? ['format' => 'date'] : [])
                + ([] !== $came && \count($came) <= 40 ? ['examples' => $came] : []);
        }

        return ServiceDocument::of(
            $service->name(),
            $version,
            $scoring,
            $properties,
            Examples::record($version->example(), $scoring->asked),
        );
    }
}
