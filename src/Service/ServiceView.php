<?php

declare(strict_types=1);

namespace App\Service;

/** A service at a glance. */
final readonly class ServiceView
{
    /**
     * @param string                                   $says     how it does, in a sentence
     * @param list<VersionView>                        $versions the newest first
     * @param list<TokenView>                          $tokens
     * @param list<DayView>                            $days     with calls, in order
     * @param list<ColumnDriftView>                    $columns  those that moved most first
     * @param ?float                                   $half     milliseconds within which half of the calls were answered
     * @param ?float                                   $most     and 95 of 100
     * @param array<array-key, float|string|bool|null> $example  a real record
     * @param list<ServiceFieldView>                   $fields   what a call asks for
     * @param list<ExampleView>                        $examples how it is called
     * @param int                                      $keepDays for how many days what callers send is kept; 0 = not at all
     */
    public function __construct(
        public int $id,
        public string $name,
        public string $path,
        public ?int $version,
        public bool $paused,
        public string $since,
        public string $says,
        public array $versions,
        public array $tokens,
        public array $days,
        public array $columns,
        public ?float $half,
        public ?float $most,
        public array $example,
        public array $fields,
        public array $examples,
        public int $keepDays,
    ) {
    }
}
