<?php

declare(strict_types=1);

namespace App\Demo;

use Dokimos\Core\Format\CsvWriter;
use Dokimos\Core\Random;
use Random\Randomizer;

/**
 * Makes the tables of Emberwick Heating Care, an invented company. The chance of a return trip is a known function of the columns
 * (docs/methods/demo-data.md), so that tests can ask whether it was recovered. Row by row, in constant memory; the same seed gives
 * the same bytes.
 */
final class VisitGenerator
{
    public const COLUMNS = ['visit_id', 'household_id', 'visit_date', 'days_ahead', 'slot', 'district', 'depot', 'job_type', 'boiler_make', 'boiler_class', 'boiler_age', 'tenure', 'access_code', 'contact_channel', 'reminder_sent', 'past_returns', 'engineer_years', 'travel_km', 'quoted_cost', 'booking_note', 'currency', 'parts_ordered_after', 'minutes_on_site', 'outcome', 'return_visit'];
    /** The columns that only exist once a visit is over. */
    public const AFTERWARDS = ['parts_ordered_after', 'minutes_on_site', 'outcome', 'return_visit'];

    private const DISTRICTS = ['Sedge Hill', 'Brindle End', 'Ninewells', 'Orrell Green', 'Harrow Dene', 'Fenby', 'Cold Ash Row', 'Millrace', 'Staithe', 'Upper Tarn', 'Wick Lane', 'Osier Bank', 'Thornhaugh', 'Quarry Vale'];
    private const SLOTS = ['08-10', '10-13', '13-16', '16-19'];
    private const JOBS = ['annual service' => 34, 'no heat' => 19, 'safety check' => 17, 'part fitting' => 14, 'leak' => 11, 'controls' => 5];
    private const MAKES = ['Pellwick' => 24, 'Ostrel' => 19, 'Hask' => 15, 'Ildren' => 13, 'Brume' => 10, 'Tarnock' => 8, 'Sarrick' => 6, 'Oddley' => 5];
    private const CLASSES = [11 => 26, 12 => 20, 14 => 14, 21 => 14, 22 => 11, 31 => 9, 40 => 6];
    private const CHANNELS = ['phone' => 30, 'desk' => 20, 'app' => 28, 'web' => 22];
    private const NOTE_JOB = [
        'annual service' => ['yearly service', 'service due', 'yearly service and a look at the flue', 'service, pressure drops now and then'],
        'no heat' => ['no heat since Sunday', 'boiler locks out', 'no hot water', 'no heat, small children'],
        'safety check' => ['certificate runs out', 'safety check before letting', 'smell of gas last week', 'yearly check'],
        'part fitting' => ['fan ordered, to be fitted', 'valve to be replaced', 'part has come in', 'fit thermostat, two rooms'],
        'leak' => ['wet patch on the wall', 'drips at the tap', 'leak under the boiler', 'pressure falls overnight'],
        'controls' => ['timer does not keep', 'room stat dead', 'bangs when it starts', 'goes off at night'],
    ];
    private const NOTE_ACCESS = ['gate code changed', 'key with the neighbor', 'ring twice, bell broken', 'access only after 4', 'dog in the yard, call first'];
    private const NOTE_PLAIN = ['', '', '', 'parking at the back', 'please be on time', 'customer works at home', 'same engineer as last time', 'first floor'];

    private Randomizer $random;
    private Blemishes $blemishes;
    /** @var array<string, list<array{string, int}>> cumulative weights per list, made once */
    private array $cumulative = [];

    public function __construct(private readonly int $seed, ?Blemishes $blemishes = null)
    {
        $this->blemishes = $blemishes ?? new Blemishes();
        $this->random = Random::stream(null, 'dokimos demo '.$seed);
        foreach (['job' => self::JOBS, 'make' => self::MAKES, 'class' => self::CLASSES, 'channel' => self::CHANNELS] as $name => $weights) {
            $sum = 0;
            foreach ($weights as $value => $weight) {
                $this->cumulative[$name][] = [(string) $value, $sum += $weight];
            }
        }
    }

    public static function forPart(int $seed, string $part, ?Blemishes $blemishes = null): self
    {
        return new self(crc32($seed.' '.$part), $blemishes);
    }

    /**
     * The whole file, line by line.
     *
     * @return \Generator<int, string>
     */
    public function visits(int $rows, string $from = '2025-01-06', int $days = 420, float $drift = 0.0): \Generator
    {
        yield CsvWriter::line(self::COLUMNS);
        $start = (int) strtotime($from.' UTC');
        for ($i = 0; $i < $rows; ++$i) {
            yield self::line($this->visit($i, $rows, $start, $days, $drift)[0]);
        }
    }

    /**
     * Visits to come: the same columns without what is known only afterwards.
     *
     * @return \Generator<int, string>
     */
    public function bookings(int $rows, string $from = '2026-03-17', int $days = 14): \Generator
    {
        $width = \count(self::COLUMNS) - \count(self::AFTERWARDS);
        yield CsvWriter::line(\array_slice(self::COLUMNS, 0, $width));
        $start = (int) strtotime($from.' UTC');
        for ($i = 0; $i < $rows; ++$i) {
            yield self::line(\array_slice($this->visit($i + 900000, $rows, $start, $days, 0.0)[0], 0, $width));
        }
    }

    /**
     * True chance and outcome of each visit, for the documented truth.
     *
     * @return \Generator<int, array{float, int}>
     */
    public function truth(int $rows, string $from = '2025-01-06', int $days = 420): \Generator
    {
        $start = (int) strtotime($from.' UTC');
        for ($i = 0; $i < $rows; ++$i) {
            yield $this->visit($i, $rows, $start, $days, 0.0)[1];
        }
    }

    /** @return \Generator<int, string> */
    public function households(int $rows): \Generator
    {
        yield CsvWriter::line(['household_id', 'district', 'persons', 'floor_area_m2', 'built_year', 'fitted_year', 'insulation', 'contract', 'since_year']);
        for ($i = 0; $i < $rows; ++$i) {
            $built = 1900 + $this->whole(0, 120);
            yield self::line(['H'.(1000 + $i), self::DISTRICTS[$this->whole(0, 13)], (string) (1 + min(5, (int) floor(-1.6 * log(max(1e-9, $this->share()))))), (string) (45 + $this->whole(0, 140)), (string) $built, (string) max($built, 2024 - $this->whole(0, 28)), ['poor', 'fair', 'good'][$this->whole(0, 2)], $this->share() < 0.6 ? 'yearly' : 'on call', (string) (2010 + $this->whole(0, 15))]);
        }
    }

    /**
     * Cells never need quoting but for notes with a comma.
     *
     * @param list<string> $cells
     */
    private static function line(array $cells): string
    {
        foreach ($cells as $cell) {
            if (str_contains($cell, ',')) {
                return CsvWriter::line($cells, false);
            }
        }

        return implode(',', $cells)."\r\n";
    }

    /** @return array{list<string>, array{float, int}} the cells, and the true chance with the outcome drawn from it */
    private function visit(int $i, int $rows, int $start, int $days, float $drift): array
    {
        $b = $this->blemishes;
        $household = $b->has('repeats') ? $this->whole(0, max(1, (int) ($rows * 0.68))) : $i;
        $date = gmdate('Y-m-d', $start + 86400 * $this->whole(0, $days - 1));
        $ahead = min(45, (int) floor(-6.3 * log(max(1e-9, $this->share())) + ($drift > 0 ? 2.0 * $drift : 0.0)));
        $slot = $this->whole(0, 3);
        $district = min(13, (int) floor(14 * $this->share() ** 1.35));
        $depot = $b->has('near-copy') ? ($this->share() < 0.985 ? $district : $this->whole(0, 13)) : $this->whole(0, 13);
        $job = $this->pick('job');
        $make = $this->pick('make');
        $class = (int) $this->pick('class');
        $age = min(38, (int) floor(2 + 5.5 * $this->normal() ** 2 + 9 * $this->share()));
        $tenure = ['owner', 'tenant', 'landlord'][$this->weighted(55, 30, 15)];
        $channel = $this->pick('channel');
        $reminder = $this->share() < 0.61;
        $past = min(5, (int) floor(-0.75 * log(max(1e-9, $this->share()))));
        $years = min(34, (int) floor(-7.5 * log(max(1e-9, $this->share()))));
        $km = round(2 + 9 * -log(max(1e-9, $this->share())) * 0.9, 1);
        $cost = $b->has('skew') ? round(60 * exp(0.75 * $this->normal()) + 20, 2) : round(140 + 30 * $this->normal(), 2);
        $access = $b->has('note') && $this->share() < 0.13;

        // The truth, in log-odds; its constants are those of docs/methods/demo-data.md.
        $z = -4.02 + 0.30 * $drift
            + 1.60 / (1 + exp(-($ahead - 9.5) / 1.2))
            + ($access ? 2.00 : 0.0)
            + ['part fitting' => 1.35, 'no heat' => 0.40, 'controls' => 0.50, 'leak' => 0.15, 'annual service' => -0.20, 'safety check' => -0.50][$job]
            + ($reminder ? 0.0 : 0.80)
            + 0.40 * $past
            - 0.040 * $years
            + ('tenant' === $tenure ? 0.45 : 0.0)
            + 0.040 * $age
            + ($age >= 13 && \in_array($class, [21, 31, 40], true) ? 2.20 : 0.0)
            + ($b->has('interaction') ? (($slot >= 2) === \in_array($channel, ['app', 'web'], true) ? 0.75 : -0.75) : 0.0);
        $chance = 1 / (1 + exp(-$z));
        $returns = $this->share() < $chance;
        $outcome = $returns ? ['part missing', 'no access', 'returned'][$access ? $this->weighted(15, 75, 10) : $this->weighted(58, 24, 18)] : 'finished';
        $minutes = max(5, (int) round(exp(3.7 + ['annual service' => 0.1, 'no heat' => 0.35, 'safety check' => -0.25, 'part fitting' => 0.45, 'leak' => 0.2, 'controls' => 0.0][$job] + 0.35 * $this->normal()) * ('no access' === $outcome ? 0.3 : 1.0)));
        $parts = $b->has('afterwards') ? $this->share() < ('part missing' === $outcome ? 0.93 : ($returns ? 0.35 : 0.03)) : $this->share() < 0.15;

        // Missing more often for the makes whose plates wear off: not at random.
        $noAge = $b->has('missing-age') && $this->share() < (\in_array($make, ['Sarrick', 'Oddley', 'Tarnock'], true) ? 0.34 : 0.165);
        $km = $b->has('minus-one') && $this->share() < 0.008 ? -1.0 : ($b->has('outliers') && $this->share() < 0.002 ? round(180 + 300 * $this->share(), 1) : $km);
        $noChannel = $b->has('missing-channel') && \in_array($i, [(int) ($rows * 0.31), (int) ($rows * 0.77)], true);
        $note = self::NOTE_JOB[$job][$this->whole(0, 3)];
        $extra = $access ? self::NOTE_ACCESS[$this->whole(0, 4)] : self::NOTE_PLAIN[$this->whole(0, 7)];
        $number = $this->whole(1, 9999);
        $hour = $this->whole(0, 2) > 0 ? '' : \sprintf(', %s %d:%02d', ['before', 'after', 'about'][$this->whole(0, 2)], $this->whole(8, 17), 5 * $this->whole(0, 11));

        return [[
            'V'.(100001 + $i), 'H'.(1000 + $household), $date, (string) $ahead, self::SLOTS[$slot], self::DISTRICTS[$district], 'D'.($depot < 9 ? '0' : '').($depot + 1), $job, $make,
            $b->has('code') ? (string) $class : 'class '.$class, $noAge ? '' : (string) $age, $tenure,
            $b->has('missing-code') ? ($this->share() < 0.131 ? \sprintf('%04d', $number) : '') : \sprintf('%04d', $number),
            $noChannel ? '' : $channel, $reminder ? 'yes' : 'no', (string) $past, (string) $years, (string) $km, \sprintf('%.2f', $cost),
            ('' === $extra ? $note : $note.', '.$extra).$hour, $b->has('constant') ? 'EUR' : ['EUR', 'GBP', 'CHF'][$this->whole(0, 2)],
            $parts ? 'yes' : 'no', (string) $minutes, $outcome, $returns ? 'yes' : 'no',
        ], [$chance, $returns ? 1 : 0]];
    }

    private function whole(int $from, int $to): int
    {
        return $this->random->getInt($from, $to);
    }

    /** Uniform on [0, 1). */
    private function share(): float
    {
        return $this->random->getInt(0, 9007199254740991) / 9007199254740992;
    }

    private function normal(): float
    {
        return sqrt(-2 * log(max(1e-300, $this->share()))) * cos(2 * \M_PI * $this->share());
    }

    private function pick(string $list): string
    {
        $entries = $this->cumulative[$list];
        $at = $this->whole(1, $entries[\count($entries) - 1][1]);
        foreach ($entries as [$value, $upTo]) {
            if ($at <= $upTo) {
                return $value;
            }
        }

        return $entries[0][0];
    }

    private function weighted(int ...$weights): int
    {
        $at = $this->whole(1, array_sum($weights));
        foreach (array_values($weights) as $i => $w) {
            if (($at -= $w) <= 0) {
                return $i;
            }
        }

        return 0;
    }
}
