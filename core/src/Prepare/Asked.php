<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

/** Follows wanted columns back through a step. */
final class Asked
{
    /**
     * @param list<string>                   $wanted columns needed after the step
     * @param array<array-key, list<string>> $made   columns the step makes or changes, and what each is made of
     * @param list<string>                   $always columns it looks at whatever is wanted
     *
     * @return list<string> columns needed before it
     */
    public static function before(array $wanted, array $made, array $always = []): array
    {
        $out = $always;
        foreach ($wanted as $name) {
            array_push($out, ...($made[$name] ?? [$name]));
        }

        return array_values(array_unique($out));
    }
}
