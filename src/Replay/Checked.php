<?php

declare(strict_types=1);

namespace App\Replay;

use App\Http\Problem;
use Symfony\Component\Serializer\Exception\ExceptionInterface;
use Symfony\Component\Serializer\Normalizer\DenormalizerInterface;
use Symfony\Component\Validator\Validator\ValidatorInterface;

/** What a file asks, held to the bounds that hold for what a page asks. */
final readonly class Checked
{
    public function __construct(private DenormalizerInterface $denormalizer, private ValidatorInterface $validator)
    {
    }

    /**
     * @template T of object
     *
     * @param class-string<T>      $class of a request
     * @param array<string, mixed> $asked
     *
     * @return T
     *
     * @throws Problem where a page could not have asked it
     */
    public function as(string $class, array $asked, string $what): object
    {
        try {
            /** @var T $request */
            $request = $this->denormalizer->denormalize($asked, $class, 'json');
        } catch (ExceptionInterface|\TypeError) {
            throw Problem::invalid(\sprintf('This is no study as Dokimos writes it: see %s.', $what), 'file');
        }
        foreach ($this->validator->validate($request) as $wrong) {
            throw Problem::invalid(\sprintf('This is no study as Dokimos writes it: see %s. %s', $what, $wrong->getMessage()), 'file');
        }

        return $request;
    }
}
