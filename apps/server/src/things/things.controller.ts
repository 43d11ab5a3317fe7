import {
  NewPhoto,
  NewPlace,
  NewThing,
  type PhotoView,
  type PlaceView,
  type ThingView,
} from "@hardline/contract";
import { Body, Controller, Delete, Get, HttpCode, Inject, Param, Post } from "@nestjs/common";
import { ApiOperation, ApiTags } from "@nestjs/swagger";
import { KeyPipe } from "../http/key.pipe";
import { IdPipe } from "../http/id.pipe";
import { bodySchema } from "../http/openApi";
import { ThingsService } from "./things.service";

@ApiTags("things")
@Controller("api/photos")
export class PhotosController {
  constructor(@Inject(ThingsService) private readonly things: ThingsService) {}

  @Post()
  @bodySchema("NewPhoto")
  @ApiOperation({ summary: "Keep an artwork that was taken in as a photograph that things can be shown on" })
  keep(@Body() { artworkId, ticketId }: NewPhoto): Promise<PhotoView> {
    return this.things.keepPhoto(artworkId, ticketId);
  }

  @Get(":key")
  @ApiOperation({ summary: "A photograph by the SHA-256 of its file: the artwork that has its pixels" })
  photo(@Param("key", KeyPipe) key: string): Promise<PhotoView> {
    return this.things.photoView(key);
  }
}

@ApiTags("things")
@Controller("api/things")
export class ThingsController {
  constructor(@Inject(ThingsService) private readonly things: ThingsService) {}

  @Get()
  @ApiOperation({ summary: "The shop's own things, each on a photograph" })
  list(): Promise<ThingView[]> {
    return this.things.things();
  }

  @Post()
  @bodySchema("NewThing")
  @ApiOperation({ summary: "Keep a thing; one of the same name takes the place of the one before" })
  keep(@Body() thing: NewThing): Promise<ThingView> {
    return this.things.keepThing(thing);
  }

  @Delete(":id")
  @HttpCode(204)
  remove(@Param("id", IdPipe) id: string): Promise<void> {
    return this.things.removeThing(id);
  }
}

@ApiTags("things")
@Controller("api/places")
export class PlacesController {
  constructor(@Inject(ThingsService) private readonly things: ThingsService) {}

  @Get()
  @ApiOperation({ summary: "The shop's own places for prints" })
  list(): Promise<PlaceView[]> {
    return this.things.places();
  }

  @Post()
  @bodySchema("NewPlace")
  keep(@Body() place: NewPlace): Promise<PlaceView> {
    return this.things.keepPlace(place);
  }

  @Delete(":id")
  @HttpCode(204)
  remove(@Param("id", IdPipe) id: string): Promise<void> {
    return this.things.removePlace(id);
  }
}
